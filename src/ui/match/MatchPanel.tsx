'use client'
/** The left column of the Match stage: the sky there is, its light on the land, and what the photo measures. */
import { Brush, SunDim, UserRound, Waves } from 'lucide-react'
import { smallSkyNote } from '@/core/steps/sky'
import { subjectApart } from '@/document/newSky'
import { newSkyAt } from '@/document/newSkyParts'
import { skyFollowsLand } from '@/document/skyLikeLand'
import { type AdjustLayer, type Layer } from '@/document/records'
import { maskWhite, openMask } from '@/ui/layers/maskActions'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { Button } from '@/ui/primitives/Button'
import { newId } from '@/ui/layers/layerActions'
import { act, set, shownProject, useBench } from '@/ui/store/bench'
import './moving'
import { LayerMatch } from './LayerMatch'
import { chooseMatchTool, MATCH_TOOLS, useMatchTool } from './matchTool'
import { toldMeasures } from './measured'
import { isMirrored, isSomeSelected, mirrorSky } from './skyActs'
import { keyOf, lookAgain, useMeasuring, usePhoto } from './photoMeasures'

export function MatchPanel() {
  const tool = useMatchTool()
  return (
    <>
      <div className="mb-3 space-y-1" role="group" aria-label="What is matched">
        {MATCH_TOOLS.map(([id, name, Icon]) => (
          <button
            key={id}
            type="button"
            aria-pressed={tool === id}
            onClick={() => chooseMatchTool(id)}
            className="flex w-full items-center gap-2.5 rounded-lg px-2.5 py-2 text-left text-[13px] font-semibold hover:bg-[var(--hover)] aria-pressed:bg-[var(--ink)] aria-pressed:text-[var(--panel)]"
          >
            <Icon size={16} />
            {name}
          </button>
        ))}
      </div>
      {tool === 'sky' ? <NewSky /> : <LayerMatch />}
      <div className="sticky -bottom-3 mt-auto bg-[var(--panel)] pt-1 pb-3">
        <p className="note">
          {tool === 'sky' ? (
            <>
              <b>New sky</b> — ← → step through the skies; drag the sky or its horizon. Values start as measured; a
              double click goes back there.
            </>
          ) : (
            <>
              <b>Layer to surroundings</b> — each value starts where it was measured; a double click goes back there.
              Drag the layer to move it.
            </>
          )}
        </p>
      </div>
    </>
  )
}

function NewSky() {
  const project = useBench(shownProject),
    parts = project ? newSkyAt(project.layers, project.activeLayer) : undefined
  useMeasuring(parts?.photo, parts?.land?.mask?.recipe)
  const mirrored = parts?.sky && isMirrored(parts.sky.placement)
  return (
    <>
      <section aria-label="New sky" className="mb-4 px-1">
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
        <section aria-label="Light on the land" className="mb-4 space-y-2 px-1">
          <h2 className="mb-1 text-xs text-[var(--muted)]">Light on the land</h2>
          <AdjustmentPanel key={parts.light.id} layer={parts.light} words={false} />
          {parts.haze && <AdjustmentPanel key={parts.haze.id} layer={parts.haze} words={false} />}
        </section>
      )}
      {parts?.exposure && parts.whiteBalance && (
        <section aria-label="The sky itself" className="mb-4 space-y-2 px-1">
          <h2 className="mb-1 text-xs text-[var(--muted)]">The sky itself</h2>
          <AdjustmentPanel key={parts.exposure.id} layer={parts.exposure} words={false} />
          <AdjustmentPanel key={parts.whiteBalance.id} layer={parts.whiteBalance} words={false} />
        </section>
      )}
      {parts?.apart && (
        <section aria-label="Light on the subject" className="mb-4 px-1">
          <h2 className="mb-1 text-xs text-[var(--muted)]">Light on the subject</h2>
          <AdjustmentPanel key={parts.apart.id} layer={parts.apart} words={false} />
        </section>
      )}
      {parts?.water && (
        <section aria-label="Sky in the water" className="mb-4 px-1">
          <h2 className="mb-1 text-xs text-[var(--muted)]">Sky in the water</h2>
          <AdjustmentPanel key={parts.water.id} layer={parts.water} words={false} />
        </section>
      )}
      {parts?.group && (
        <div className="mb-4 space-y-2 px-1">
          {!(parts.exposure && parts.whiteBalance) && (
            <Button
              className="w-full"
              onClick={() => act('Exposure and white balance of the sky', skyFollowsLand(parts, newId))}
            >
              <SunDim size={15} />
              Exposure, warmth
            </Button>
          )}
          {!parts.apart && <Apart light={parts.light!} />}
          {!parts.water && <InWater photo={keyOf(parts.photo)} />}
          <Button className="w-full" onClick={() => brushAway(parts.group!)}>
            <Brush size={15} />
            Brush away …
          </Button>
        </div>
      )}
      {parts && <Measured photo={keyOf(parts.photo)} />}
    </>
  )
}

const useSelected = (): boolean => useBench(isSomeSelected)

/** What is selected mirrors the sky; where nothing is, the water that was found. */
function InWater({ photo }: { photo: string }) {
  const selected = useSelected(),
    water = usePhoto(({ photo: of, found }) => (of === photo ? found?.water.is : undefined))
  return (
    <Button
      className="w-full"
      why={
        selected || water === 'sure' || water === 'perhaps'
          ? undefined
          : `${water ? 'No water was found: select it' : 'Select the water'} first, with any tool.`
      }
      onClick={() => void mirrorSky()}
    >
      <Waves size={15} />
      Sky in the water
    </Button>
  )
}

/** What is selected takes more or less of the light than the land. */
function Apart({ light }: { light: AdjustLayer }) {
  const selected = useSelected()
  const why = light.mask
    ? 'The light on the land has a mask of its own.'
    : selected
      ? undefined
      : 'Select the subject first, with any tool.'
  return (
    <Button
      className="w-full"
      why={why}
      onClick={() => act('A subject apart from the land', subjectApart(light, newId))}
    >
      <UserRound size={15} />
      Subject apart
    </Button>
  )
}

/** Paints the group's mask: where it hides, the photo is as it came. */
function brushAway(group: Layer): void {
  if (!group.mask) {
    maskWhite(group)
    return
  }
  openMask(group.id, 'paint')
  set({ nextOp: 'subtract' })
}

function Measured({ photo }: { photo: string }) {
  const { photo: of, state, found } = usePhoto(),
    measured = of === photo ? found : null,
    // Why the photo can have no other sky, or what should be known before.
    note = measured && (measured.problem ?? smallSkyNote(measured.measures.skyShare))
  return (
    <section aria-label="Measured in this photo" className="mb-3 px-1">
      <h2 className="mb-1 text-xs text-[var(--muted)]">Measured in this photo</h2>
      {measured ? (
        <>
          <dl className="space-y-1 text-[13px]">
            {toldMeasures(measured.measures, measured.water).map(([name, value]) => (
              <div key={name} className="flex justify-between gap-2">
                <dt className="shrink-0">{name}</dt>
                <dd className="text-right font-mono text-xs leading-5">{value}</dd>
              </div>
            ))}
          </dl>
          {note && <p className="mt-2 text-[13px] leading-snug">{note}</p>}
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
