import { type Affine, apply, compose, rotation, scaling, translation } from '@/core/raster/affine'
import { boundsOfPoints } from '@/core/raster/bounds'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type PanelProps } from '@/ui/finders/finder'
import { MirrorSidewaysGlyph, MirrorUpsideDownGlyph } from '@/ui/primitives/glyphs'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview, shownProject, useBench } from '@/ui/store/bench'
import { scaleOf, turnOf } from './summary'
import { useSelectedBefore } from './useSelectedBefore'

type TransformStep = StepOfKind<'transform'>

const about = (map: Affine, [x, y]: [number, number]): Affine =>
  compose(translation(x, y), compose(map, translation(-x, -y)))

/** How far moved, how large, how far turned: typed or by sliders. */
export function TransformPanel({ step, home }: PanelProps<TransformStep>) {
  const edit = (matrix: Affine) => changeStep(home, step.id!, { matrix })
  const { matrix } = step,
    scale = scaleOf(matrix) * 100,
    turn = turnOf(matrix)
  const before = useSelectedBefore(step),
    canvas = useBench((state) => shownProject(state)!.canvas),
    box = before ?? { x: 0, y: 0, ...canvas }
  const corners = [0, 1].flatMap((u) =>
      [0, 1].map((v) => apply(matrix, box.x + u * box.width, box.y + v * box.height)),
    ),
    [left, upper, right, lower] = boundsOfPoints(corners)
  /** It stays where it is while scaling, turning and mirroring. */
  const middle: [number, number] = [(left + right) / 2, (upper + lower) / 2]
  const scaled = (percent: number) => edit(compose(about(scaling(Math.max(0.1, percent) / scale), middle), matrix))
  const turned = (degrees: number) => edit(compose(rotation(degrees - turn, ...middle), matrix))
  const place = (label: string, axis: 0 | 1) =>
    before && (
      <label className="flex items-center justify-between gap-1 text-[13px]">
        {label}
        <NumberField
          label={label}
          value={axis ? upper : left}
          min={-1e7}
          max={1e7}
          unit="px"
          className="w-[88px]"
          onSettle={(value) =>
            act(
              'Move selection',
              edit(compose(axis ? translation(0, value - upper) : translation(value - left, 0), matrix)),
            )
          }
        />
      </label>
    )
  const flip = (map: Affine) => act('Mirror selection', edit(compose(about(map, middle), matrix)))
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
