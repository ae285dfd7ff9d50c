import { ScanEye } from 'lucide-react'
import { useEffect, useState } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Bitmap } from '@/ui/primitives/Bitmap'
import { act, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { MakeNow } from '../marking/MakeNow'
import { oneClick } from '../oneClick'

const THUMBNAIL_PX = 140

/** The things that compete, side by side; a press takes one, a press with Shift takes one more, or leaves it. */
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
  const taken = new Set([step.pick, ...step.also].map((pick) => Math.min(pick, things.length - 1)))
  const take = (pick: number, more: boolean) => {
    const rest = more ? [...taken].filter((other) => other !== pick) : []
    if (more && taken.has(pick) && !rest.length) return // one stays
    const [first, ...also] = more && taken.has(pick) ? rest : more ? [...taken, pick] : [pick]
    act(more ? 'Choose the subjects' : 'Choose the subject', changeStep(home, step.id!, { pick: first, also }))
  }
  return (
    <>
      {things.length > 1 && (
        <>
          <div role="group" aria-label="Which things" className="flex gap-1.5 overflow-x-auto pb-1">
            {things.map((bitmap, i) => (
              <button
                key={i}
                type="button"
                aria-pressed={taken.has(i)}
                aria-label={`Thing ${i + 1} of ${things.length}`}
                onClick={(event) => take(i, event.shiftKey)}
                className="rounded-md border-2 border-transparent p-0.5 aria-pressed:border-[var(--accent)]"
              >
                <Bitmap bitmap={bitmap} width={72} height={52} label="" />
              </button>
            ))}
          </div>
          <p className="text-xs leading-relaxed text-[var(--muted)]">Shift-click takes more than one.</p>
        </>
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
  summary: ({ pick, also }) =>
    also.length
      ? `things ${[pick, ...also].map((n) => n + 1).join(', ')}`
      : pick
        ? `thing ${pick + 1}`
        : 'what stands out',
  press: oneClick('subject', 'Subject', { pick: 0, also: [] }),
  Handles: () => null,
  Panel,
  Tool: () => <MakeNow kind="subject" name="Find the subject" />,
  middle: () => ({}),
}
