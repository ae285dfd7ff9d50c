'use client'
/** The left column of the Match stage: the sky there is, its light on the land, and what the photo measures. */
import { newSkyAt } from '@/document/newSky'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { Button } from '@/ui/primitives/Button'
import { shownProject, useBench } from '@/ui/store/bench'
import { toldMeasures } from './measured'
import { isMirrored } from './skyActs'
import { lookAgain, useMeasuring, usePhoto } from './photoMeasures'

export function MatchPanel() {
  const project = useBench(shownProject),
    parts = project ? newSkyAt(project.layers, project.activeLayer) : undefined
  useMeasuring(parts?.photo.id, parts?.land?.mask?.recipe)
  const mirrored = parts?.sky && isMirrored(parts.sky.placement)
  return (
    <>
      <section aria-label="New sky" className="mb-4 space-y-2 px-1">
        <h3 className="text-xs text-[var(--muted)]">New sky</h3>
        <p className="text-[13px] leading-snug">
          {parts?.sky ? (
            <>
              <b>{parts.sky.name}</b>, behind {parts.photo.name}
              {mirrored && '; mirrored, so that its light comes from the photo’s side'}.
            </>
          ) : parts ? (
            <>
              Pick a sky below: it goes behind what stands before the sky of <b>{parts.photo.name}</b>.
            </>
          ) : (
            'Choose the photo in the list of layers first.'
          )}
        </p>
      </section>
      {parts?.light && (
        <section aria-label="Light on the land" className="mb-2">
          <h3 className="mb-1 px-1 text-xs text-[var(--muted)]">Light on the land</h3>
          <AdjustmentPanel key={parts.light.id} layer={parts.light} />
        </section>
      )}
      {parts && <Measured photo={parts.photo.id} />}
      <div className="sticky -bottom-3 mt-auto bg-[var(--panel)] pt-1 pb-3">
        <p className="note">
          <b>Match</b> —{' '}
          {parts?.sky
            ? '← → step through the skies. Drag the sky to move it, its horizon to lay it anew.'
            : 'a new sky goes behind the land, horizon on horizon, and the land takes its light.'}
        </p>
      </div>
    </>
  )
}

function Measured({ photo }: { photo: string }) {
  const { photo: of, state, found } = usePhoto(),
    measured = of === photo ? found : null
  return (
    <section aria-label="Measured in this photo" className="mb-3 px-1">
      <h3 className="mb-1 text-xs text-[var(--muted)]">Measured in this photo</h3>
      {measured ? (
        <>
          <dl className="space-y-1 text-[13px]">
            {toldMeasures(measured.measures).map(([name, value]) => (
              <div key={name} className="flex justify-between gap-2">
                <dt className="shrink-0">{name}</dt>
                <dd className="text-right font-mono text-xs leading-5">{value}</dd>
              </div>
            ))}
          </dl>
          {measured.problem && <p className="mt-2 text-[13px] leading-snug">{measured.problem}</p>}
        </>
      ) : state === 'stopped' ? (
        <Button className="w-full" onClick={lookAgain}>
          Measure
        </Button>
      ) : (
        <p className="text-xs text-[var(--muted)]" role="status">
          Looking at the photo …
        </p>
      )}
    </section>
  )
}
