import { type Affine, compose, rotation, scaling, translation } from '@/core/raster/affine'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type PanelProps } from '@/ui/finders/finder'
import { MirrorSidewaysGlyph, MirrorUpsideDownGlyph } from '@/ui/primitives/glyphs'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, preview, shownProject, useBench } from '@/ui/store/bench'
import { scaleOf, turnOf } from './summary'

type TransformStep = StepOfKind<'transform'>

/** The middle of what is selected, in the steps' coordinates: it stays where it is while scaling and turning. */
function middle(): [number, number] {
  const { result } = get(),
    { bounds } = result ?? {},
    canvas = shownProject(get())!.canvas
  return bounds ? [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2] : [canvas.width / 2, canvas.height / 2]
}
const about = (map: Affine, [x, y]: [number, number]): Affine =>
  compose(translation(x, y), compose(map, translation(-x, -y)))

/** How far moved, how large, how far turned: typed or by sliders. */
export function TransformPanel({ step, home }: PanelProps<TransformStep>) {
  const edit = (matrix: Affine) => changeStep(home, step.id!, { matrix })
  const bounds = useBench((state) => state.result?.bounds)
  const { matrix } = step,
    scale = scaleOf(matrix) * 100,
    turn = turnOf(matrix)
  const scaled = (percent: number) => edit(compose(about(scaling(Math.max(0.1, percent) / scale), middle()), matrix))
  const turned = (degrees: number) => {
    const [x, y] = middle()
    return edit(compose(rotation(degrees - turn, x, y), matrix))
  }
  const place = (label: string, axis: 0 | 1) =>
    bounds && (
      <label className="flex items-center justify-between gap-1 text-[13px]">
        {label}
        <NumberField
          label={label}
          value={axis ? bounds.y : bounds.x}
          min={-1e7}
          max={1e7}
          unit="px"
          className="w-[88px]"
          onSettle={(value) =>
            act(
              'Move selection',
              edit(compose(axis ? translation(0, value - bounds.y) : translation(value - bounds.x, 0), matrix)),
            )
          }
        />
      </label>
    )
  const flip = (map: Affine) => act('Mirror selection', edit(compose(about(map, middle()), matrix)))
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">
        {place('X', 0)}
        {place('Y', 1)}
      </div>
      <Slider
        label="Scale"
        value={scale}
        min={1}
        max={400}
        step={0.5}
        digits={1}
        unit="%"
        fallback={100}
        curve={2}
        onPreview={(v) => preview(scaled(v))}
        onSettle={(v) => act('Scale selection', scaled(v))}
      />
      <Slider
        label="Rotate"
        value={turn}
        min={-180}
        max={180}
        step={0.5}
        digits={1}
        unit="°"
        fallback={0}
        onPreview={(v) => preview(turned(v))}
        onSettle={(v) => act('Rotate selection', turned(v))}
      />
      <div className="flex items-center">
        <IconButton label="Mirror left to right" onClick={() => flip([-1, 0, 0, 1, 0, 0])}>
          <MirrorSidewaysGlyph />
        </IconButton>
        <IconButton label="Mirror top to bottom" onClick={() => flip([1, 0, 0, -1, 0, 0])}>
          <MirrorUpsideDownGlyph />
        </IconButton>
      </div>
    </>
  )
}
