import { Trash2 } from 'lucide-react'
import { changeStep } from '@/document/edits'
import { type PanelProps } from '@/ui/finders/finder'
import { ChosenSolver } from '@/ui/finders/marking/ChosenSolver'
import { Switch } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { act } from '@/ui/store/bench'
import { type EdgeMode } from '@/ui/store/benchState'
import { type StepOfKind } from '@/core/steps/registry'

type EdgeStep = StepOfKind<'edge'>

const MODES: readonly EdgeMode[] = ['unsure', 'keep', 'drop']
export const edgeSummary = ({ reach, strokes }: EdgeStep): string =>
  [
    reach > 0 ? `${reach} px` : 'strokes only',
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
      <ChosenSolver step={step} home={home} />
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
