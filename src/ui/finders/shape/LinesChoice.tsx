import { MirrorSidewaysGlyph, MirrorUpsideDownGlyph } from '@/ui/primitives/glyphs'
import { IconButton } from '@/ui/primitives/Button'
import { Select } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { set, useBench } from '@/ui/store/bench'
import { BOX_LINES } from './boxLines'

const MOST_CELLS = 24

/** Lines of composition inside a box or a crop: which, how many, which way round. */
export function LinesChoice({ inside }: { inside: string }) {
  const lines = useBench((state) => state.boxLines),
    flip = useBench((state) => state.boxLinesFlip),
    grid = useBench((state) => state.boxGrid)
  const cells = (label: string, i: 0 | 1) => (
    <NumberField
      label={label}
      value={grid[i]}
      min={1}
      max={MOST_CELLS}
      className="w-9"
      onSettle={(value) => set({ boxGrid: grid.with(i, Math.round(value)) as [number, number] })}
    />
  )
  return (
    <div className="flex items-center gap-1">
      <Select
        label={`Lines inside the ${inside}`}
        value={lines}
        options={BOX_LINES}
        onChange={(boxLines) => set({ boxLines })}
        className="flex-1"
      />
      {lines === 'grid' && (
        <span className="flex items-center gap-0.5 text-xs">
          {cells('Columns of the grid', 0)}×{cells('Rows of the grid', 1)}
        </span>
      )}
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
  )
}
