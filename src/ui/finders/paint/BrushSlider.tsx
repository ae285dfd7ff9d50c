import { Slider } from '@/ui/primitives/Slider'
import { initialTool } from '@/ui/store/rooms/tool'

const LENGTH = { min: 1, max: 2000, unit: 'px', factor: 1, curve: 2.5 },
  SHARE = { min: 1, max: 100, unit: '%', factor: 100, curve: 1 }
const SHOWN = {
  size: { label: 'Size', ...LENGTH },
  hardness: { label: 'Hardness', ...SHARE, min: 0 },
  strength: { label: 'Strength', ...SHARE },
  spacing: { label: 'Spacing', ...SHARE, max: 300, curve: 2 },
} as const

interface Props {
  readonly name: keyof typeof SHOWN
  readonly value: number
  readonly onPreview: (change: Record<string, number>) => void
  /** @param label what it is called on the screen */
  readonly onSettle: (change: Record<string, number>, label: string) => void
}

/** A value of a brush or of its strokes; usual is what a brush begins with. */
export function BrushSlider({ name, value, onPreview, onSettle }: Props) {
  const { factor, ...shown } = SHOWN[name]
  return (
    <Slider
      {...shown}
      value={value * factor}
      step={1}
      fallback={initialTool.brush[name] * factor}
      onPreview={(v) => onPreview({ [name]: v / factor })}
      onSettle={(v) => onSettle({ [name]: v / factor }, shown.label)}
    />
  )
}
