/** The edge step of the steps shown: found, made, and given strokes. */
import { parseStep } from '@/core/formats/recipe'
import { type Step, type StepOfKind } from '@/core/steps/registry'
import { addStep, changeStep } from '@/document/edits'
import { type Drag } from '@/ui/finders/finder'
import { fittingReach } from '@/ui/modifiers/edge/fittingReach'
import { drawMark } from '@/ui/finders/marking/strokes'
import { abandon, act, get, preview, set, settle, shownSteps } from '@/ui/store/bench'
import { type EdgeMode } from '@/ui/store/rooms/tool'
import { withId } from '@/document/withId'

export type EdgeStep = StepOfKind<'edge'>
/** The open one; else the last that is not hidden. */
export function edgeStepIn(steps: readonly Step[], openStep: string | null): EdgeStep | undefined {
  const edges = steps.filter((step): step is EdgeStep => step.kind === 'edge')
  return withId(edges, openStep) ?? edges.findLast((step) => !step.hidden)
}

/** How far the next edge is solved: as the Edge stage shows. */
const startOfEdge = (): { reach?: number } => {
  const { edgeReach } = get()
  return edgeReach === null ? {} : { reach: edgeReach }
}

let asking = false
/** Solves the edge: one more step, opened. What the picture says is waited for. */
export async function addEdgeStep(): Promise<void> {
  const { home, edgeReach, openStep } = get(),
    id = crypto.randomUUID()
  let reach = edgeReach
  if (reach === null) {
    if (asking) return
    asking = true
    reach = await fittingReach()
    asking = false
  }
  act('Solve the edge', addStep(home, parseStep({ kind: 'edge', id, ...(reach === null ? {} : { reach }) })))
  if (get().openStep === openStep) set({ openStep: id })
}

const LABELS: Record<EdgeMode, string> = {
  unsure: 'Edge: unsure stroke',
  keep: 'Edge: keep stroke',
  drop: 'Edge: drop stroke',
}

/** A stroke along the edge; Shift keeps, Alt drops. Without an edge step it makes one. Points are in the steps' coordinates. */
export function edgeStroke(at: {
  readonly point: readonly [number, number]
  readonly scale: number
  readonly shift: boolean
  readonly alt: boolean
}): Drag {
  const { home, openStep, edgeMode, marker } = get(),
    mode: EdgeMode = at.alt ? 'drop' : at.shift ? 'keep' : edgeMode
  const into = edgeStepIn(shownSteps(get()), openStep),
    id = into?.id ?? crypto.randomUUID()
  set({ openStep: id })
  return drawMark(
    at,
    (points) => {
      const strokes = [...(into?.strokes ?? []), { points, size: marker.size, mode }]
      preview(
        into
          ? changeStep(home, id, { strokes })
          : addStep(home, parseStep({ kind: 'edge', id, ...startOfEdge(), strokes })),
      )
    },
    () => {
      if (!settle(LABELS[mode])) abandon()
    },
  )
}
