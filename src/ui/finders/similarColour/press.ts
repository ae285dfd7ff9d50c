import { type StepOfKind } from '@/core/steps/registry'
import { parseStep } from '@/core/formats/recipe'
import { get } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type Drag, type Press } from '../finder'
import { putStep } from '../putStep'

/** CSS px of dragging for one step of tolerance. */
const PX_PER_TOLERANCE = 3
/** Less than this is a click with an unsteady hand. */
const DEAD_PX = 5

/**
 * A click picks, at first with the tolerance that the picture asks for there; dragging sideways from there changes it. Another pick of the open step
 * goes on with the tolerance it has.
 */
export function press(at: Press, open: StepOfKind<'similarColour'> | undefined): Drag {
  const values = open
    ? { tolerance: open.tolerance, patch: open.patch, metric: open.metric, contiguous: open.contiguous }
    : { patch: 3 as const }
  const step = putStep(at, 'similarColour', values, open)
  const pick = { at: [Math.floor(at.point[0]) + 0.5, Math.floor(at.point[1]) + 0.5] }
  let start = open?.tolerance,
    dx = 0,
    shown: number | undefined,
    over = false
  const show = () => {
    if (start === undefined || over) return
    const tolerance =
      Math.abs(dx) < DEAD_PX
        ? start
        : Math.round(Math.min(255, Math.max(0, start + (dx - Math.sign(dx) * DEAD_PX) / PX_PER_TOLERANCE)))
    if (tolerance !== shown) step.show({ ...pick, tolerance })
    shown = tolerance
  }
  const measured =
    start === undefined
      ? measure({ kind: 'similarColour', ...values, ...pick }).then((tolerance) => {
          start = tolerance
          show()
        })
      : null
  show()
  const finish = () => {
    if (get().live && !over) step.end('Similar')
    over = true
  }
  return {
    move(_point, _modifiers, screen) {
      dx = screen[0] - at.screen[0]
      show()
    },
    // A click may be over before its tolerance is measured.
    end: () => (measured ? void measured.then(finish) : finish()),
    cancel() {
      over = true
    },
  }
}

function measure(values: object): Promise<number> {
  const step = parseStep(values) as StepOfKind<'similarColour'>
  return (
    askEngine((engine, request) => engine.fittingTolerance(request, step), step)?.catch(() => step.tolerance) ??
    Promise.resolve(step.tolerance)
  )
}
