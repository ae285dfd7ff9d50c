'use client'
import { SquareStack, Waves } from 'lucide-react'
import { changeMask } from '@/document/masks'
import { layerById } from '@/document/edits'
import { MarkerSize } from '@/ui/finders/marking/MarkerTool'
import { Button } from '@/ui/primitives/Button'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview, set, shownProject, shownSteps, useBench } from '@/ui/store/bench'
import { makeMaskNow, maskProblem } from '@/ui/store/makeOf'
import { Compare } from './Compare'
import { addEdgeStep, edgeStepIn } from './edgeStep'

/** The left column of the Edge stage: what a stroke says, fringe colours, the ribbon. */
export function EdgePanel() {
  const steps = useBench(shownSteps),
    openStep = useBench((state) => state.openStep),
    mode = useBench((state) => state.edgeMode),
    ribbon = useBench((state) => state.ribbon)
  const edge = edgeStepIn(steps, openStep)
  if (!steps.length)
    return (
      <>
        <p className="note mb-2">
          <b>No edge yet</b> — find the subject first; its edge is worked on here.
        </p>
        <Button onClick={() => set({ stage: 'select' })}>Go to Select</Button>
      </>
    )
  return (
    <>
      <section aria-label="Edge" className="mb-4 space-y-2 px-1">
        <h3 className="text-xs text-[var(--muted)]">Edge as a matte</h3>
        {edge ? (
          <Button className="w-full" onClick={() => set({ openStep: edge.id!, view: 'cutout' })}>
            Show its values
          </Button>
        ) : (
          <Button
            tone="accent"
            className="w-full"
            onClick={() => {
              addEdgeStep()
              set({ view: 'cutout' })
            }}
          >
            <Waves size={16} />
            Solve the edge
          </Button>
        )}
      </section>
      <section aria-label="Strokes" className="mb-4 space-y-1.5 px-1">
        <h3 className="text-xs text-[var(--muted)]">A stroke says</h3>
        <Choice
          small
          label="What the next stroke says"
          value={mode}
          options={[
            ['unsure', 'unsure'],
            ['keep', 'keep'],
            ['drop', 'drop'],
          ]}
          onChange={(edgeMode) => set({ edgeMode })}
        />
        <MarkerSize />
      </section>
      <Fringe />
      <Compare />
      <section aria-label="Ribbon" className="mb-3 px-1">
        <Switch label="Edge ribbon" checked={ribbon} onChange={(on) => set({ ribbon: on })} />
      </section>
      <div className="sticky -bottom-3 mt-auto bg-[var(--panel)] pt-1 pb-3">
        <p className="note">
          <b>Edge</b> —{' '}
          {edge
            ? 'brush unsure where hair flies; Shift keeps, Alt drops. Each stroke is solved when you let go.'
            : 'solve it, or brush over hair with unsure: the band around the edge becomes a matte.'}
        </p>
      </div>
    </>
  )
}

/** Colours of the old backdrop in soft pixels: a property of the masked layer. */
function Fringe() {
  const project = useBench(shownProject),
    home = useBench((state) => state.home)
  const layer = project && home.kind === 'mask' ? layerById(project, home.layer) : undefined,
    mask = layer?.mask
  return (
    <section aria-label="Fringe colours" className="mb-4 space-y-1.5 px-1">
      <h3 className="text-xs text-[var(--muted)]">Fringe colours</h3>
      {layer?.kind === 'picture' && mask ? (
        <>
          <Slider
            label="Taken out"
            value={(mask.fringe ?? 0) * 100}
            min={0}
            max={100}
            step={1}
            unit="%"
            fallback={100}
            onPreview={(v) => preview(changeMask(layer.id, { fringe: v / 100 }))}
            onSettle={(v) => act('Fringe colours', changeMask(layer.id, { fringe: v / 100 }))}
          />
          <Slider
            label="Rim"
            value={mask.rim ?? 0}
            min={0}
            max={10}
            step={0.1}
            digits={1}
            unit="px"
            fallback={0}
            onPreview={(rim) => preview(changeMask(layer.id, { rim }))}
            onSettle={(rim) => act('Rim of old backdrop', changeMask(layer.id, { rim }))}
          />
          <p className="text-xs leading-relaxed text-[var(--muted)]">
            Soft pixels take the subject’s own colours; Rim does so along hard edges. The picture stays as it is.
          </p>
        </>
      ) : (
        <>
          <p className="text-xs leading-relaxed text-[var(--muted)]">
            {home.kind === 'mask'
              ? 'Only a picture layer has a backdrop to take out.'
              : 'Taken out of the layer once this is its mask.'}
          </p>
          {home.kind === 'selection' && (
            <Button why={maskProblem()} className="!min-h-8 w-full" onClick={makeMaskNow}>
              <SquareStack size={15} />
              Make mask
            </Button>
          )}
        </>
      )}
    </section>
  )
}
