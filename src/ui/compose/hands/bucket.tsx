import { PaintBucket } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import { Choice } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, set, useBench } from '@/ui/store/bench'
import { initialTool } from '@/ui/store/rooms/tool'
import { Colours } from './brush'
import { painter } from './painting'
import { type HandPage, type HandPress } from './hand'

/** A press fills the selection, or what resembles the colour there within it. */
function press({ project, point }: HandPress) {
  const put = painter(project)
  if (!put) return null
  const { colour, bucket } = get()
  const fill = () =>
    act(
      'Fill',
      put(
        { kind: 'colour', colour },
        bucket.similar
          ? (parseStep({
              kind: 'similarColour',
              id: crypto.randomUUID(),
              at: [Math.floor(point[0]), Math.floor(point[1])],
              tolerance: bucket.tolerance,
            }) as StepOfKind<'similarColour'>)
          : null,
      ),
    )
  return {
    move() {},
    end() {
      fill()
    },
  }
}

function Panel() {
  const colour = useBench((state) => state.colour),
    bucket = useBench((state) => state.bucket),
    selected = useBench((state) => Boolean(state.project?.selection.steps.length))
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <Colours colour={colour} />
      <Choice
        small
        label="What is filled"
        value={bucket.similar ? 'similar' : 'all'}
        options={[
          ['similar', 'similar colours'],
          ['all', selected ? 'the selection' : 'all'],
        ]}
        onChange={(v) => set({ bucket: { ...bucket, similar: v === 'similar' } })}
      />
      {bucket.similar && (
        <Slider
          label="Tolerance"
          value={bucket.tolerance}
          min={0}
          max={255}
          step={1}
          fallback={initialTool.bucket.tolerance}
          curve={2}
          onPreview={(tolerance) => set({ bucket: { ...bucket, tolerance } })}
          onSettle={(tolerance) => set({ bucket: { ...bucket, tolerance } })}
        />
      )}
    </div>
  )
}

export const bucketHand: HandPage = {
  id: 'bucket',
  name: 'Fill',
  icon: PaintBucket,
  press,
  Panel,
  Handles: () => null,
  hint: 'Press on the picture: what resembles the colour there is filled, or all of the selection. What was filled stays a piece of paint whose colour can be changed.',
}
