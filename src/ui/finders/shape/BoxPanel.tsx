import { sentenceOf } from '@/core/fields/sentenceOf'
import { Shrink } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { changeStep } from '@/document/edits'
import { Button } from '@/ui/primitives/Button'
import { Choice } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { Slider } from '@/ui/primitives/Slider'
import { digitsOf, pxOf, UNITS } from '@/ui/primitives/units'
import { act, get, preview, set, shownProject, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type PanelProps } from '../finder'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { LooksAt } from '../marking/LooksAt'
import { placesOf } from '@/ui/canvas/box'
import { type BoxStep } from './pressBox'

const FAR = 1e7

/** Exact numbers, turning and edge of a shape in a box; a rectangle's corner radius; trimming it to what is inside. */
export function BoxPanel({ step, home }: PanelProps<BoxStep>) {
  const unit = useBench((state) => state.unit),
    project = useBench(shownProject)
  const change = (values: object) => changeStep(home, step.id!, values)
  const field = (label: string, name: 'x' | 'y' | 'width' | 'height', min: number) => {
    const units = pxOf(
        name === 'x' || name === 'width' ? (project?.canvas.width ?? 1) : (project?.canvas.height ?? 1),
        project?.ppi ?? 1,
      ),
      factor = units[unit]
    return (
      <label className="flex items-center justify-between gap-1 text-[13px]">
        {label}
        <NumberField
          label={label}
          value={step[name] / factor}
          min={min / factor}
          max={FAR / factor}
          unit={unit}
          units={units}
          digits={digitsOf(unit, step[name])}
          className="w-[88px]"
          onSettle={(value) => act(`Change ${label.toLowerCase()}`, change({ [name]: value * factor }))}
        />
      </label>
    )
  }
  const most = Math.max(1, Math.round(Math.min(step.width, step.height) / 2))
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">
        {field('X', 'x', -FAR)}
        {field('Width', 'width', 0)}
        {field('Y', 'y', -FAR)}
        {field('Height', 'height', 0)}
      </div>
      <Choice
        small
        label="Unit of lengths"
        value={unit}
        options={UNITS.map((u) => [u, u] as const)}
        onChange={(next) => set({ unit: next })}
      />
      <TrimToContent step={step} change={change} />
      {step.kind === 'rectangle' && (
        <Slider
          label="Corners"
          value={Math.min(most, step.cornerRadius)}
          min={0}
          max={most}
          step={1}
          fallback={0}
          unit="px"
          onPreview={(cornerRadius) => preview(change({ cornerRadius }))}
          onSettle={(cornerRadius) => act('Change corner radius', change({ cornerRadius }))}
        />
      )}
      <Slider
        label="Rotate"
        value={((step.rotation + 540) % 360) - 180}
        min={-180}
        max={180}
        step={0.5}
        digits={1}
        fallback={0}
        unit="°"
        onPreview={(rotation) => preview(change({ rotation }))}
        onSettle={(rotation) => act('Rotate', change({ rotation }))}
      />
      <AntialiasSwitch step={step} home={home} />
    </>
  )
}

/** Shrinks the box to the edges of what is inside it, on all layers or on the active one. */
function TrimToContent({ step, change }: { step: BoxStep; change: (values: object) => ReturnType<typeof changeStep> }) {
  const [busy, setBusy] = useState(false),
    sample = useBench((state) => state.trimLooksAt)
  const trim = async () => {
    const [[left, , right], [top, , bottom]] = placesOf(step)
    setBusy(true)
    try {
      const box = await askEngine((engine, request) =>
        engine.contentBox(request, { x: left, y: top, width: right - left, height: bottom - top }, sample),
      )
      if (!box)
        toast(
          `Nothing to trim to: ${sample === 'layer' ? 'on this layer ' : ''}the box holds only what its border shows.`,
        )
      else if (box.x === left && box.y === top && box.width === right - left && box.height === bottom - top)
        toast('The box is trimmed already: what is inside reaches all its sides.')
      else if (get().openStep === step.id) act('Trim to content', change({ ...box, rotation: 0 }))
    } catch (error) {
      toast.error(`The content could not be looked at: ${sentenceOf(error)}`)
    } finally {
      setBusy(false)
    }
  }
  return (
    <div className="flex items-center justify-between gap-2">
      <Button
        why={busy ? 'Looking …' : step.width > 0 && step.height > 0 ? undefined : 'Draw the box first.'}
        onClick={() => {
          void trim()
        }}
        className="!min-h-7 !px-2 !text-xs whitespace-nowrap"
        title="Shrinks the box to what is inside it"
      >
        <Shrink size={13} />
        Trim to content
      </Button>
      <LooksAt label="What trimming looks at" value={sample} onChange={(trimLooksAt) => set({ trimLooksAt })} />
    </div>
  )
}
