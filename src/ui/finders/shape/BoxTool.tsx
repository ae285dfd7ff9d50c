import { ArrowLeftRight } from 'lucide-react'
import { NumberField } from '@/ui/primitives/NumberField'
import { MirrorSidewaysGlyph, MirrorUpsideDownGlyph } from '@/ui/primitives/glyphs'
import { IconButton } from '@/ui/primitives/Button'
import { Select, Switch } from '@/ui/primitives/Choice'
import { type BenchState } from '@/ui/store/benchState'
import { set, shownSteps, useBench } from '@/ui/store/bench'
import { BOX_LINES } from './boxLines'

const MODES: readonly (readonly [BenchState['proportions']['mode'], string])[] = [
  ['free', 'any proportions'],
  ['ratio', 'fixed ratio'],
  ['width', 'fixed width'],
  ['height', 'fixed height'],
  ['size', 'fixed size'],
]
const MOST = 1e6

/** What boxes keep while they are drawn and stretched, the lines inside them, and whether they cling. */
export function BoxTool() {
  const keep = useBench((state) => state.proportions),
    lines = useBench((state) => state.boxLines),
    flip = useBench((state) => state.boxLinesFlip),
    snapping = useBench((state) => state.snapping)
  const open = useBench((state) => shownSteps(state).find((step) => step.id === state.openStep))
  const change = (values: Partial<typeof keep>) => set({ proportions: { ...keep, ...values } })
  /** A fixed length starts as the open box has it. */
  const choose = (mode: typeof keep.mode) =>
    change({
      mode,
      ...(mode === 'ratio' && keep.mode !== 'ratio'
        ? { width: 3, height: 2 }
        : mode !== 'free' && mode !== 'ratio' && open && 'width' in open && 'height' in open
          ? { width: Math.round(open.width) || 1, height: Math.round(open.height) || 1 }
          : {}),
    })
  const unit = keep.mode === 'ratio' ? '' : 'px',
    digits = (v: number) => (v % 1 ? 2 : 0)
  const field = (label: string, name: 'width' | 'height') => (
    <NumberField
      label={label}
      value={keep[name]}
      min={keep.mode === 'ratio' ? 0.01 : 1}
      max={MOST}
      unit={unit}
      digits={digits(keep[name])}
      className="w-[74px] !border-[var(--line)]"
      onSettle={(value) => change({ [name]: value })}
    />
  )
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <Select label="Proportions" value={keep.mode} options={MODES} onChange={choose} className="w-full" />
      {keep.mode !== 'free' && (
        <div className="flex items-center justify-between gap-1">
          {keep.mode !== 'height' && field(keep.mode === 'ratio' ? 'Ratio, width' : 'Fixed width', 'width')}
          {(keep.mode === 'ratio' || keep.mode === 'size') && (
            <IconButton
              label="Swap width and height"
              onClick={() => change({ width: keep.height, height: keep.width })}
            >
              <ArrowLeftRight size={14} />
            </IconButton>
          )}
          {keep.mode !== 'width' && field(keep.mode === 'ratio' ? 'Ratio, height' : 'Fixed height', 'height')}
        </div>
      )}
      <div className="flex items-center gap-0.5">
        <Select
          label="Lines inside the box"
          value={lines}
          options={BOX_LINES}
          onChange={(boxLines) => set({ boxLines })}
          className="flex-1"
        />
        {(lines === 'spiral' || lines === 'triangle') && (
          <>
            <IconButton
              label="Mirror the lines left to right"
              aria-pressed={Boolean(flip & 1)}
              onClick={() => set({ boxLinesFlip: flip ^ 1 })}
            >
              <MirrorSidewaysGlyph />
            </IconButton>
            <IconButton
              label="Mirror the lines top to bottom"
              aria-pressed={Boolean(flip & 2)}
              onClick={() => set({ boxLinesFlip: flip ^ 2 })}
            >
              <MirrorUpsideDownGlyph />
            </IconButton>
          </>
        )}
      </div>
      <Switch label="Snap to edges, guides" checked={snapping} onChange={(on) => set({ snapping: on })} />
    </div>
  )
}
