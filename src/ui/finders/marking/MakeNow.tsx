import { recipeAt } from '@/document/edits'
import { Button } from '@/ui/primitives/Button'
import { act, get, set, shownProject } from '@/ui/store/bench'
import { type OneClickKind } from '../oneClick'
import { beginStep } from '../putStep'

/** Makes a step that needs no place in the picture. */
export function MakeNow({ kind, name }: { kind: OneClickKind; name: string }) {
  const make = () => {
    const { home, nextOp } = get(),
      project = shownProject(get())
    if (!project) return
    const id = crypto.randomUUID(),
      first = !recipeAt(project, home)?.steps.length,
      replaces = nextOp === 'replace'
    act(name, beginStep({ home, first, replaces, op: replaces ? 'add' : nextOp }, { kind, id }))
    set({ openStep: id })
  }
  return (
    <div className="mb-3 px-1">
      <Button className="w-full" onClick={make}>
        {name}
      </Button>
    </div>
  )
}
