import { type Solver } from '@/core/fields/solver'
import { type Step } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { Button } from '@/ui/primitives/Button'
import { act } from '@/ui/store/bench'

/** Steps from before both ways went together, and recipes that name one, keep the way they were solved; here it can be let go. */
export function ChosenSolver({ step, home }: { step: Step & { solver: Solver }; home: RecipeHome }) {
  if (step.solver === 'auto') return null
  return (
    <div className="flex items-center justify-between gap-2 text-xs text-[var(--muted)]">
      <span>Solved {step.solver === 'sampling' ? 'from samples' : 'by local colours'} alone</span>
      <Button onClick={() => act('Solve by both', changeStep(home, step.id!, { solver: 'auto' }))}>
        Solve by both
      </Button>
    </div>
  )
}
