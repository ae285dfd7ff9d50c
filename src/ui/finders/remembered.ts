/** What the next step of a kind begins with: some values of the one that was worked on last. */
import { isFinding, type Step } from '@/core/steps/registry'
import { shownSteps, useBench } from '@/ui/store/bench'
import { withId } from '@/document/withId'

const REMEMBERED = ['feather', 'antialias', 'cornerRadius']
/** An edge band's width is a setting; a box's is the box itself. */
const rememberedOf = (kind: Step['kind']): readonly string[] =>
  kind === 'edgeBand' ? [...REMEMBERED, 'width'] : REMEMBERED

const last = new Map<Step['kind'], object>()
let band: { readonly axis: 'row' | 'column'; readonly size: number } | undefined
useBench.subscribe((state, before) => {
  if (state.project === before.project || !state.openStep) return
  const step = withId(shownSteps(state), state.openStep)
  if (!step || !isFinding(step)) return
  const names = rememberedOf(step.kind)
  last.set(step.kind, Object.fromEntries(Object.entries(step).filter(([name]) => names.includes(name))))
  if (step.kind === 'band' && step.size > 0) band = { axis: step.axis, size: step.size }
})
export const remembered = (kind: Step['kind']): object => last.get(kind) ?? {}
/** How a click places the next band: as the last one lay. */
export const lastBand = () => band
