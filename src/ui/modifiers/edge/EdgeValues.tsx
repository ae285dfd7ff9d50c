import { Trash2 } from 'lucide-react'
import { changeStep } from '@/document/edits'
import { type PanelProps } from '@/ui/finders/finder'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { act } from '@/ui/store/bench'
import { type EdgeMode } from '@/ui/store/benchState'
import { type StepOfKind } from '@/core/steps/registry'

type EdgeStep = StepOfKind<'edge'>

const MODES: readonly EdgeMode[] = ['unsure', 'keep', 'drop']
const solverWords = {
  closedForm: 'By windows: smooth and quiet. The first to try.',
  sampling: 'By samples: for busy surroundings and gauze.',
} as const

export const edgeSummary = ({ reach, strokes, solver }: EdgeStep): string =>
  [
    reach > 0 ? `${reach} px` : 'strokes only',
    solver === 'sampling' && 'by samples',
    strokes.length > 0 && `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
  ]
    .filter(Boolean)
    .join(' · ')

/** What the sliders of an edge step leave: how it is solved, and its strokes. */
export function EdgeValues({ step, home }: PanelProps<EdgeStep>) {
  const change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  return (
    <>
      <Switch
        label="Follow fine things beyond"
        checked={step.follow}
        onChange={(follow) => change(follow ? 'Follow fine things' : 'Do not follow fine things', { follow })}
      />
      <Choice
        small
        label="How it is solved"
        value={step.solver}
        options={[
          ['closedForm', 'by windows'],
          ['sampling', 'by samples'],
        ]}
        onChange={(solver) => change('Change solver', { solver })}
      />
      <p className="text-xs leading-relaxed text-[var(--muted)]">{solverWords[step.solver]}</p>
      {MODES.map((mode) => {
        const last = step.strokes.findLastIndex((stroke) => stroke.mode === mode),
          count = step.strokes.filter((stroke) => stroke.mode === mode).length
        return (
          count > 0 && (
            <div key={mode} className="flex items-center justify-between text-[13px]">
              <span>
                {count} {mode} {count === 1 ? 'stroke' : 'strokes'}
              </span>
              <IconButton
                label={`Remove the last ${mode} stroke`}
                onClick={() => change(`Remove ${mode} stroke`, { strokes: step.strokes.filter((_, i) => i !== last) })}
              >
                <Trash2 size={15} />
              </IconButton>
            </div>
          )
        )
      })}
    </>
  )
}
