import { type StepOfKind } from '@/core/steps/registry'
import { changeStep, recipeAt } from '@/document/edits'
import { act, get, set, shownProject } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { beginStep } from '../putStep'
import { withId } from '@/document/withId'

type Coloured = StepOfKind<'palette' | 'limitColour'>

/** Each click takes the colour there into the open palette, or (with Shift, too) into the open step that keeps only some colours; other keys held begin a palette of their own. */
export function press(at: Press, open: StepOfKind<'palette'> | undefined): Drag {
  return {
    move() {},
    end() {
      void at.readPixel().then((pixel) => {
        if (!pixel || pixel[3] === 0) return
        const colour = [pixel[0], pixel[1], pixel[2]] as const
        const into = (at.keys && !at.shift ? undefined : openLimit(at)) ?? (at.further ? undefined : open)
        if (into) {
          if (!into.colours.some((c) => c.join() === colour.join()))
            act('Add colour', changeStep(at.home, into.id!, { colours: [...into.colours, colour] }))
          return
        }
        const id = crypto.randomUUID()
        act('Palette', beginStep(at, { kind: 'palette', id, colours: [colour] }))
        set({ openStep: id })
      })
    },
  }
}

function openLimit(at: Press): Coloured | undefined {
  const { openStep } = get(),
    project = shownProject(get())
  const step = project && withId(recipeAt(project, at.home)?.steps, openStep)
  return step?.kind === 'limitColour' ? step : undefined
}
