import { Paintbrush } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { type Stroke } from '@/core/raster/stroke'
import { apply } from '@/core/raster/affine'
import { type StepOfKind } from '@/core/steps/registry'
import { ColourField } from '@/ui/primitives/ColourField'
import { Switch } from '@/ui/primitives/Choice'
import { get, preview, set, settle, useBench } from '@/ui/store/bench'
import { BrushRing, BrushTool } from '@/ui/finders/paint'
import { canErase, painter } from './painting'
import { type HandPage, type HandPress } from './hand'

const TENTH = (v: number) => Math.round(v * 10) / 10

/** A drag is a stroke in the colour; with Alt, or while Erase is on, it rubs out. */
function press({ project, point, alt, pressure }: HandPress) {
  const put = painter(project)
  if (!put) return null
  const { brush, colour } = get(),
    erase = (alt || brush.erase) && canErase()
  const points: Stroke['points'][number][] = []
  const id = crypto.randomUUID()
  const add = ([x, y]: readonly [number, number], force?: number) =>
    points.push(force === undefined ? [TENTH(x), TENTH(y)] : [TENTH(x), TENTH(y), Math.round(force * 100) / 100])
  const { size, hardness, strength, spacing, tip } = brush
  const show = () =>
    preview(
      put(
        { kind: 'colour', colour },
        parseStep({
          kind: 'paint',
          id,
          strokes: [{ points: [...points], size, hardness, strength, spacing, tip, erase: false }],
        }) as StepOfKind<'paint'>,
        erase,
      ),
    )
  add(point, pressure)
  show()
  return {
    move(at: readonly [number, number], { shift, pressure: force }: { shift: boolean; pressure?: number }) {
      if (shift) points.length = 1
      add(at, force)
      show()
    },
    end() {
      settle(erase ? 'Rub out' : 'Paint')
    },
  }
}

function Panel() {
  const colour = useBench((state) => state.colour),
    brush = useBench((state) => state.brush)
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <Colours colour={colour} />
      <BrushTool />
      <Switch
        label="Rub out (or hold Alt)"
        checked={brush.erase}
        onChange={(erase) => set({ brush: { ...brush, erase } })}
      />
    </div>
  )
}
export function Colours({ colour }: { colour: `#${string}` }) {
  const other = useBench((state) => state.otherColour)
  return (
    <>
      <ColourField
        label="Colour"
        value={colour}
        onPreview={(next) => set({ colour: next })}
        onSettle={(next) => set({ colour: next })}
      />
      <ColourField
        label="Other (X)"
        value={other}
        onPreview={(next) => set({ otherColour: next })}
        onSettle={(next) => set({ otherColour: next })}
      />
    </>
  )
}

export const brushHand: HandPage = {
  id: 'brush',
  name: 'Brush',
  icon: Paintbrush,
  press,
  Panel,
  followsPointer: true,
  hint: 'Drag to paint on the active painted layer, or on a new one. Inside a selection nothing lands outside it. X swaps the colours, [ and ] change the size, Shift draws straight.',
  Handles: ({ map, pointer }) => <BrushRing toScreen={(x, y) => apply(map, x, y)} pointer={pointer} />,
}
