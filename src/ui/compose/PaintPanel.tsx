'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { type Stroke } from '@/core/raster/stroke'
import { changePaint, removePaint } from '@/document/painting'
import { type PaintItem, type PaintLayer } from '@/document/records'
import { IconButton } from '@/ui/primitives/Button'
import { BrushSlider } from '@/ui/finders/paint/BrushSlider'
import { act, preview } from '@/ui/store/bench'
import { FillValues } from './FillPanel'
import { counted } from '@/ui/primitives/counted'

const wordsOf = ({ erase, fill, area }: PaintItem): string => {
  const last = area.recipe.steps.at(-1),
    strokes = last?.kind === 'paint' ? last.strokes.length : 0
  const what = strokes
    ? counted(strokes, 'stroke')
    : fill.kind === 'gradient'
      ? 'gradient'
      : last?.kind === 'similarColour'
        ? 'similar colours'
        : 'filled'
  return erase ? `${what}, rubbed out` : what
}

/** What was painted on the layer, last on top. Each piece stays: its colour, strength and brush can be changed afterwards. */
export function PaintPanel({ layer }: { layer: PaintLayer }) {
  const [open, setOpen] = useState<string | null>(null)
  if (!layer.items.length) return <p className="text-xs text-[var(--muted)]">Nothing is painted on it yet.</p>
  return (
    <section aria-label="Paint" className="">
      <h3 className="mb-1 text-xs text-[var(--muted)]">What was painted, last on top</h3>
      <ul className="max-h-64 overflow-y-auto">
        {[...layer.items].reverse().map((item) => (
          <li key={item.id} className={open === item.id ? 'rounded-lg bg-[var(--raised)] p-1' : ''}>
            <div className="flex items-center gap-1.5">
              <span
                className="size-4 shrink-0 rounded border border-[var(--line-strong)]"
                style={{
                  background: item.erase
                    ? 'transparent'
                    : item.fill.kind === 'colour'
                      ? item.fill.colour
                      : `linear-gradient(90deg, ${item.fill.stops.map((stop) => stop.colour).join(', ')}${item.fill.stops.length === 1 ? `, ${item.fill.stops[0].colour}` : ''})`,
                }}
              />
              <button
                type="button"
                aria-expanded={open === item.id}
                onClick={() => setOpen(open === item.id ? null : item.id)}
                className="min-w-0 flex-1 truncate rounded py-1 text-left text-[13px] hover:underline"
              >
                {wordsOf(item)}
              </button>
              <IconButton
                label={`Remove ${wordsOf(item)}`}
                onClick={() => act('Remove paint', removePaint(layer.id, item.id))}
                className="!size-6"
              >
                <Trash2 size={13} />
              </IconButton>
            </div>
            {open === item.id && <Values layer={layer} item={item} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

function Values({ layer, item }: { layer: PaintLayer; item: PaintItem }) {
  const edit = (change: Partial<PaintItem>) => changePaint(layer.id, item.id, change)
  const last = item.area.recipe.steps.at(-1),
    strokes = last?.kind === 'paint' ? last.strokes : null
  const brushed = (change: Partial<Stroke>): Partial<PaintItem> => ({
    area: {
      ...item.area,
      recipe: {
        version: 1,
        steps: item.area.recipe.steps.map((step) =>
          step === last && step.kind === 'paint'
            ? { ...step, strokes: step.strokes.map((stroke) => ({ ...stroke, ...change })) }
            : step,
        ),
      },
    },
  })
  const of = (
    name: 'size' | 'hardness' | 'strength',
    value: number,
    edited: (v: Record<string, number>) => Partial<PaintItem>,
  ) => ({
    name,
    value,
    onPreview: (change: Record<string, number>) => preview(edit(edited(change))),
    onSettle: (change: Record<string, number>, label: string) =>
      act(`Change ${label.toLowerCase()} of paint`, edit(edited(change))),
  })
  return (
    <div className="space-y-1 pb-1">
      {!item.erase && (
        <FillValues
          fill={item.fill}
          preview={(fill) => preview(edit({ fill }))}
          settle={(label, fill) => act(label, edit({ fill }))}
        />
      )}
      <BrushSlider {...of('strength', item.strength, (change) => change)} />
      {strokes?.length && <BrushSlider {...of('size', strokes[0].size, brushed)} />}
      {strokes?.length && <BrushSlider {...of('hardness', strokes[0].hardness, brushed)} />}
    </div>
  )
}
