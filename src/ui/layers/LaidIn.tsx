'use client'
import { BLEND_MODES, type BlendMode } from '@/core/compose/modes'
import { changeLayer } from '@/document/layers'
import { type Layer } from '@/document/records'
import { Select } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'

const MODES = BLEND_MODES.map((mode) => [mode, mode[0].toUpperCase() + mode.slice(1).replace('-', ' ')] as const)

/** How the active layer is laid over what is below it. */
export function LaidIn({ layer }: { layer: Layer }) {
  const through = layer.kind === 'group' && layer.passThrough
  const mode: BlendMode | 'through' = through && !layer.blend ? 'through' : (layer.blend ?? 'normal')
  const options = layer.kind === 'group' ? ([['through', 'Passed through'], ...MODES] as const) : MODES
  const choose = (next: string) =>
    act(
      `Blend ${layer.name}: ${next}`,
      changeLayer(
        layer.id,
        next === 'through'
          ? { blend: 'normal', passThrough: true }
          : { blend: next as BlendMode, ...(layer.kind === 'group' ? { passThrough: false } : {}) },
      ),
    )
  return (
    <div className="space-y-1.5">
      <div className="flex items-center justify-between gap-2 text-[13px]">
        <span className="shrink-0">Blend</span>
        <Select
          label={`How ${layer.name} is blended`}
          value={mode}
          options={options as readonly (readonly [string, string])[]}
          onChange={choose}
          className="w-40"
        />
      </div>
      <Slider
        label="Opacity"
        value={layer.opacity * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
        fallback={100}
        onPreview={(v) => preview(changeLayer(layer.id, { opacity: v / 100 }))}
        onSettle={(v) => act('Change opacity', changeLayer(layer.id, { opacity: v / 100 }))}
      />
    </div>
  )
}
