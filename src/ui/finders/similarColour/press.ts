import { type StepOfKind } from '@/core/steps/registry'
import { get } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { putStep } from '../putStep'

/** CSS px of dragging for one step of tolerance. */
const PX_PER_TOLERANCE = 3
/** Less than this is a click with an unsteady hand. */
const DEAD_PX = 5
const FIRST_TOLERANCE = 24

/** A click picks; dragging sideways from there changes the tolerance. A further pick starts with the tolerance of the one before. */
export function press(at: Press, open: StepOfKind<'similarColour'> | undefined): Drag {
  const start = open?.tolerance ?? FIRST_TOLERANCE
  const values = open
    ? { tolerance: open.tolerance, patch: open.patch, metric: open.metric, contiguous: open.contiguous }
    : { tolerance: start, patch: 3 as const }
  const step = putStep(at, 'similarColour', values, open)
  const pick = { at: [Math.floor(at.point[0]) + 0.5, Math.floor(at.point[1]) + 0.5] }
  step.show(pick)
  let tolerance = start
  return {
    move(_point, _modifiers, screen) {
      const dx = screen[0] - at.screen[0]
      const next =
        Math.abs(dx) < DEAD_PX
          ? start
          : Math.round(Math.min(255, Math.max(0, start + (dx - Math.sign(dx) * DEAD_PX) / PX_PER_TOLERANCE)))
      if (next === tolerance) return
      tolerance = next
      step.show({ ...pick, tolerance })
    },
    end: () => {
      if (get().live) step.end('Similar')
    },
  }
}
