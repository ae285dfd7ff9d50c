'use client'
/** The left column of the Match stage: another sky, and what the photo measures. */
import { CloudSun } from 'lucide-react'
import { useEffect, useState } from 'react'
import { type Measures } from '@/core/match/measure'
import { newSkyAt } from '@/document/newSky'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { Button } from '@/ui/primitives/Button'
import { get, shownProject, useBench } from '@/ui/store/bench'
import { toldMeasures } from './measured'
import { chooseSky, measureNow, skyProblem } from './newSkyActs'

export function MatchPanel() {
  const project = useBench(shownProject),
    problem = skyProblem(project),
    parts = project ? newSkyAt(project.layers, project.activeLayer) : undefined
  return (
    <>
      <section aria-label="New sky" className="mb-4 space-y-2 px-1">
        <h3 className="text-xs text-[var(--muted)]">New sky</h3>
        <Button tone={parts?.sky ? undefined : 'accent'} className="w-full" why={problem} onClick={chooseSky}>
          <CloudSun size={16} />
          {parts?.sky ? 'Exchange the sky …' : 'Choose a sky …'}
        </Button>
        {parts?.sky && (
          <p className="text-xs leading-relaxed text-[var(--muted)]">
            <b className="text-[var(--ink)]">{parts.sky.name}</b>, behind {parts.photo.name}. It is a layer: place it in
            Compose.
          </p>
        )}
      </section>
      {parts?.light && (
        <section aria-label="Light on the land" className="mb-2">
          <h3 className="mb-1 px-1 text-xs text-[var(--muted)]">Light on the land</h3>
          <AdjustmentPanel key={parts.light.id} layer={parts.light} />
        </section>
      )}
      {parts && (
        <Measured key={`${parts.photo.id} ${parts.photo.asset}`} photo={parts.photo.id} after={parts.sky?.asset} />
      )}
      <div className="sticky -bottom-3 mt-auto bg-[var(--panel)] pt-1 pb-3">
        <p className="note">
          <b>Match</b> —{' '}
          {parts?.sky
            ? 'the sky, the land before it and its light are ordinary layers: change, mask or hide any of them.'
            : 'a new sky goes behind the land, horizon on horizon, and the land takes its light.'}
        </p>
      </div>
    </>
  )
}

/** Looked at once for each photo: its pixels do not change. @param after what was asked of the engine since, which goes first */
function Measured({ photo, after }: { photo: string; after: string | undefined }) {
  const [measures, setMeasures] = useState<Measures | null>(null),
    [state, setState] = useState<'looking' | 'done' | 'stopped'>('looking'),
    [asked, setAsked] = useState(0)
  useEffect(() => {
    let gone = false
    const project = shownProject(get()),
      parts = project ? newSkyAt(project.layers, photo) : undefined
    if (!project || !parts) return
    setState('looking')
    measureNow(project, parts).then(
      (found) => {
        if (gone) return
        if (found) setMeasures(found)
        setState(found ? 'done' : 'stopped')
      },
      () => {
        if (!gone) setState('stopped')
      },
    )
    return () => {
      gone = true
    }
  }, [photo, after, asked])
  return (
    <section aria-label="Measured in this photo" className="mb-3 px-1">
      <h3 className="mb-1 text-xs text-[var(--muted)]">Measured in this photo</h3>
      {measures ? (
        <dl className="space-y-1 text-[13px]">
          {toldMeasures(measures).map(([name, value]) => (
            <div key={name} className="flex justify-between gap-2">
              <dt className="shrink-0">{name}</dt>
              <dd className="text-right font-mono text-xs leading-5">{value}</dd>
            </div>
          ))}
        </dl>
      ) : state === 'looking' ? (
        <p className="text-xs text-[var(--muted)]" role="status">
          Looking at the photo …
        </p>
      ) : (
        <Button className="w-full" onClick={() => setAsked((count) => count + 1)}>
          Measure
        </Button>
      )}
    </section>
  )
}
