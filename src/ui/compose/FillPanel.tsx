'use client'
import { Trash2 } from 'lucide-react'
import { type Fill } from '@/core/compose/fill'
import { changeLayer } from '@/document/layers'
import { type FillLayer } from '@/document/records'
import { ColourField } from '@/ui/primitives/ColourField'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { RampForm, StopActions } from '@/ui/primitives/RampParts'
import { act, preview } from '@/ui/store/bench'

export function FillPanel({ layer }: { layer: FillLayer }) {
  return (
    <section aria-label="Fill" className="space-y-1.5">
      <FillValues
        fill={layer.fill}
        preview={(fill) => preview(changeLayer(layer.id, { fill }))}
        settle={(label, fill) => act(label, changeLayer(layer.id, { fill }))}
      />
    </section>
  )
}

/** A colour, or a gradient's form and stops; its ends lie on the canvas. */
export function FillValues({
  fill,
  preview: show,
  settle,
}: {
  fill: Fill
  preview: (fill: Fill) => void
  settle: (label: string, fill: Fill) => void
}) {
  if (fill.kind === 'colour')
    return (
      <ColourField
        label="Colour"
        value={fill.colour}
        onPreview={(colour) => show({ ...fill, colour })}
        onSettle={(colour) => settle('Change colour', { ...fill, colour })}
      />
    )
  const { stops } = fill
  const stop = (i: number, change: object) => ({
    ...fill,
    stops: stops.map((each, n) => (n === i ? { ...each, ...change } : each)),
  })
  return (
    <>
      <RampForm shape={fill.shape} onChange={(shape) => settle('Change form', { ...fill, shape })} />
      <ul aria-label="Stops">
        {stops.map(({ at, colour, alpha }, i) => (
          <li key={i} className="flex items-center gap-0.5 text-[13px]">
            <input
              type="color"
              aria-label={`Colour of stop ${i + 1}`}
              value={colour}
              onInput={(event) => show(stop(i, { colour: (event.target as HTMLInputElement).value }))}
              onChange={() => {}}
              onBlur={(event) => settle('Change stop', stop(i, { colour: event.target.value }))}
              className="size-6 shrink-0 cursor-pointer rounded border-0 bg-transparent p-0"
            />
            <NumberField
              label={`Place of stop ${i + 1}`}
              value={at * 100}
              min={0}
              max={100}
              unit="%"
              className="w-[58px]"
              onSettle={(v) => settle('Move stop', stop(i, { at: v / 100 }))}
            />
            <span className="text-xs text-[var(--muted)]">α</span>
            <NumberField
              label={`Alpha of stop ${i + 1}`}
              value={alpha * 100}
              min={0}
              max={100}
              unit="%"
              className="w-[58px]"
              onSettle={(v) => settle('Change stop', stop(i, { alpha: v / 100 }))}
            />
            <IconButton
              label={`Remove stop ${i + 1}`}
              why={stops.length > 1 ? undefined : 'A gradient has at least one stop.'}
              onClick={() => settle('Remove stop', { ...fill, stops: stops.filter((_, n) => n !== i) })}
              className="ml-auto !size-6"
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      <StopActions
        add={() => settle('Add stop', { ...fill, stops: [...stops, { ...stops[stops.length - 1], at: 0.5 }] })}
        reverse={() => settle('Reverse gradient', { ...fill, from: fill.to, to: fill.from })}
      />
    </>
  )
}
