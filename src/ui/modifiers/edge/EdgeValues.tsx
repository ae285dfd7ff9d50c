import { Trash2 } from 'lucide-react'
import { changeStep } from '@/document/edits'
import { type PanelProps } from '@/ui/finders/finder'
import { StepSlider } from '@/ui/finders/StepSlider'
import { ChosenSolver } from '@/ui/finders/marking/ChosenSolver'
import { Switch } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { act, preview } from '@/ui/store/bench'
import { type EdgeMode } from '@/ui/store/rooms/tool'
import { type StepOfKind } from '@/core/steps/registry'
import { AcrossEdge } from './AcrossEdge'
import { useFittingReach } from './fittingReach'
import { SolveWithin } from './SolveWithin'
import { counted } from '@/ui/primitives/counted'

type EdgeStep = StepOfKind<'edge'>

const MODES: readonly EdgeMode[] = ['unsure', 'keep', 'drop']
/** The edge seen across, what is rounded along it, how it is solved, and its strokes. */
export function EdgeValues({ step, home }: PanelProps<EdgeStep>) {
  const change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  const fitting = useFittingReach(step.id)
  return (
    <>
      <SolveWithin
        value={step.reach}
        fitting={fitting}
        onPreview={(reach) => preview(changeStep(home, step.id!, { reach }))}
        onSettle={(reach) => change('Solve within', { reach })}
      />
      <AcrossEdge step={step} home={home} />
      <StepSlider
        step={step}
        home={home}
        field="smooth"
        label="Round along the edge"
        max={40}
        digits={1}
        unit="px"
        curve={2.2}
        change="Round along the edge"
      />
      <Switch
        label="Follow hair beyond"
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
                {mode[0].toUpperCase() + mode.slice(1)}: {counted(count, 'stroke')}
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
