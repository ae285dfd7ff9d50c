/** What the next step of a kind begins with: some values of the one that was worked on last. */
import { isFinding, type Step } from '@/core/steps/registry'
import { shownSteps, useBench } from '@/ui/store/bench'

const REMEMBERED = ['feather', 'antialias', 'cornerRadius', 'width'] as const
/** Widths are lengths of a band; a box's is its own. */
const isOwn = (kind: Step['kind'], name: (typeof REMEMBERED)[number]): boolean =>
  name === 'width' && kind !== 'edgeBand'

const last = new Map<Step['kind'], object>()
let band: { readonly axis: 'row' | 'column'; readonly size: number } | undefined
useBench.subscribe((state, before) => {
  if (state.project === before.project || !state.openStep) return
  const step = shownSteps(state).find(({ id }) => id === state.openStep)
  if (!step || !isFinding(step)) return
  last.set(
    step.kind,
    Object.fromEntries(
      Object.entries(step).filter(([name]) => REMEMBERED.some((each) => each === name && !isOwn(step.kind, each))),
    ),
  )
  if (step.kind === 'band' && step.size > 0) band = { axis: step.axis, size: step.size }
})
export const remembered = (kind: Step['kind']): object => last.get(kind) ?? {}
/** How a click places the next band: as the last one lay. */
export const lastBand = () => band
