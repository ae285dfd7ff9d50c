'use client'
import { changeMask, type MaskChange } from '@/document/masks'
import { type Layer } from '@/document/records'
import { Slider } from '@/ui/primitives/Slider'
import { Switch } from '@/ui/primitives/Choice'
import { act, preview } from '@/ui/store/bench'

/** A mask's live values, beside its steps. */
export function MaskValues({ layer }: { layer: Layer }) {
  const mask = layer.mask!
  const edit = (label: string, change: MaskChange) => act(label, changeMask(layer.id, change))
  return (
    <section aria-label="Mask values" className="space-y-2">
      <Slider
        label="Feather"
        value={mask.feather ?? 0}
        min={0}
        max={400}
        step={0.1}
        digits={1}
        unit="px"
        fallback={0}
        curve={2.4}
        onPreview={(feather) => preview(changeMask(layer.id, { feather }))}
        onSettle={(feather) => edit('Feather mask', { feather })}
      />
      <Slider
        label="Strength"
        value={(mask.strength ?? 1) * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
        fallback={100}
        onPreview={(v) => preview(changeMask(layer.id, { strength: v / 100 }))}
        onSettle={(v) => edit('Strength of mask', { strength: v / 100 })}
      />
      <Switch label="Inverted" checked={mask.invert ?? false} onChange={(invert) => edit('Invert mask', { invert })} />
      <Switch
        label="Moves with the picture"
        checked={!mask.unlinked}
        onChange={(linked) => edit(linked ? 'Link mask' : 'Unlink mask', { unlinked: !linked })}
      />
      <Switch
        label="Shown outside its frame"
        checked={mask.outsideShown ?? false}
        onChange={(outsideShown) => edit('Outside of mask', { outsideShown })}
      />
    </section>
  )
}
