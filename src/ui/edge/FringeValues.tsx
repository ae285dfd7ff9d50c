'use client'
import { WIDEST_RIM } from '@/document/limits'
import { changeMask } from '@/document/masks'
import { type PictureLayer } from '@/document/records'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'

/** Colours of the old backdrop in soft pixels: values of a photo's mask. */
export function FringeValues({ layer }: { layer: PictureLayer }) {
  const mask = layer.mask!
  return (
    <section aria-label="Fringe colours" className="space-y-2">
      <h3 className="text-xs text-[var(--muted)]">Fringe colours</h3>
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
        max={WIDEST_RIM}
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
    </section>
  )
}
