import { ScanEye } from 'lucide-react'
import { useEffect, useState } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Bitmap } from '@/ui/primitives/Bitmap'
import { act, get, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { MakeNow } from '../marking/MakeNow'
import { putStep } from '../putStep'

const THUMBNAIL_PX = 140

/** The things that compete, side by side; a press takes one. */
function Panel({ step, home }: PanelProps<StepOfKind<'subject'>>) {
  const [things, setThings] = useState<readonly ImageBitmap[]>([])
  const result = useBench((state) => state.result)
  useEffect(() => {
    let gone = false
    askEngine((engine, request) => engine.subjects(request, step.sample, THUMBNAIL_PX), step)?.then(
      (bitmaps) => {
        if (!gone) setThings(bitmaps)
      },
      () => {},
    )
    return () => {
      gone = true
    }
  }, [step, result])
  return (
    <>
      {things.length > 1 && (
        <div role="radiogroup" aria-label="Which thing" className="flex gap-1.5 overflow-x-auto pb-1">
          {things.map((bitmap, i) => (
            <button
              key={i}
              type="button"
              role="radio"
              aria-checked={step.pick === i}
              aria-label={`Thing ${i + 1} of ${things.length}`}
              onClick={() => act('Choose the subject', changeStep(home, step.id!, { pick: i }))}
              className="rounded-md border-2 border-transparent p-0.5 aria-checked:border-[var(--accent)]"
            >
              <Bitmap bitmap={bitmap} width={72} height={52} label="" />
            </button>
          ))}
        </div>
      )}
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const subjectPage: FinderPage<'subject'> = {
  id: 'subject',
  kind: 'subject',
  name: 'Subject',
  group: 'object',
  icon: ScanEye,
  hint: 'Finds what stands out against what touches the picture’s border. When several things compete, its card shows them to choose from.',
  summary: (step) => (step.pick ? `thing ${step.pick + 1}` : 'what stands out'),
  press: (at, open) => {
    const step = putStep(at, 'subject', {}, open)
    step.show({ pick: 0 })
    return {
      move() {},
      end() {
        if (get().live) step.end('Subject')
      },
    }
  },
  Handles: () => null,
  Panel,
  Tool: () => <MakeNow kind="subject" name="Find the subject" />,
  middle: () => ({}),
}
