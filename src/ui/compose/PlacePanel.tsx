'use client'
import { compose, translation, type Affine } from '@/core/raster/affine'
import { type Project } from '@/document/records'
import { CoverGlyph, FitGlyph, MirrorSidewaysGlyph, MirrorUpsideDownGlyph, OwnSizeGlyph } from '@/ui/primitives/glyphs'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { act, useBench } from '@/ui/store/bench'
import { heldIn } from '@/ui/store/focus'
import { placeableOf } from '@/ui/canvas/placeable'
import { changedAboutMiddle, flipped, placedInMiddle, placementOf } from '@/ui/canvas/placement'
import { withId } from '@/document/withId'

const FAR = 1e6,
  LARGEST = 100_000

/** Where the active layer, or its mask, lies: typed, or by the handles on the canvas. */
/** Room for five digits and a sign. */
const PLACE = 'w-[96px]'

export function PlacePanel({ project }: { project: Project }) {
  const held = useBench(heldIn)
  const thing = placeableOf(project, held),
    active = withId(project.layers, project.activeLayer)
  if (!thing)
    return (
      <>
        <p className="text-xs text-[var(--muted)]">
          {active
            ? `${active.name} acts on all of the canvas: there is nothing to place${active.mask ? '; unlink its mask to place that' : ''}.`
            : 'Choose a layer in the list to place it.'}
        </p>
      </>
    )
  const { x, y, across, down, turn, skew } = placementOf(thing.placement)
  const place = (label: string, placement: Affine) => act(`${label} ${thing.name}`, thing.place(placement))
  const about = (label: string, change: Parameters<typeof changedAboutMiddle>[2]) =>
    place(label, changedAboutMiddle(thing.placement, thing, change))
  const field = (
    label: string,
    value: number,
    unit: string,
    digits: number,
    min: number,
    max: number,
    settle: (value: number) => void,
    wide = 'w-[76px]',
  ) => (
    <label className="flex items-center justify-between gap-1 text-[13px]">
      {label}
      <NumberField
        label={label}
        value={value}
        min={min}
        max={max}
        unit={unit}
        digits={digits}
        className={wide}
        onSettle={(next) => {
          if (!thing.problem) settle(next)
        }}
      />
    </label>
  )
  const button = (label: string, icon: React.ReactNode, run: () => void) => (
    <IconButton label={label} why={thing.problem} onClick={run}>
      {icon}
    </IconButton>
  )
  return (
    <section aria-label="Place">
      <div className="my-1.5 grid grid-cols-2 gap-x-4 gap-y-1">
        {field(
          'X',
          x,
          'px',
          1,
          -FAR,
          FAR,
          (v) => place('Move', compose(translation(v - x, 0), thing.placement)),
          PLACE,
        )}
        {field(
          'Y',
          y,
          'px',
          1,
          -FAR,
          FAR,
          (v) => place('Move', compose(translation(0, v - y), thing.placement)),
          PLACE,
        )}
        {field('Width', across * 100, '%', 1, 0, LARGEST, (value) => about('Stretch', { across: value / 100 }))}
        {field('Height', down * 100, '%', 1, -LARGEST, LARGEST, (value) => about('Stretch', { down: value / 100 }))}
        {field('Scale', Math.sqrt(Math.abs(across * down)) * 100, '%', 1, 0, LARGEST, (value) => {
          const now = Math.sqrt(Math.abs(across * down)) || 1,
            by = value / 100 / now
          about('Scale', { across: (across || 1) * by, down: (down || 1) * by })
        })}
        {field('Rotate', turn, '°', 1, -360, 360, (value) => about('Rotate', { turn: value }))}
        {field('Skew', skew, '°', 1, -85, 85, (value) => about('Skew', { skew: value }))}
      </div>
      <div className="flex justify-between">
        {button('Fit into the canvas', <FitGlyph />, () => place('Fit', placedInMiddle(thing, project.canvas, 'fit')))}
        {button('Cover the canvas', <CoverGlyph />, () =>
          place('Cover with', placedInMiddle(thing, project.canvas, 'cover')),
        )}
        {button('Own size, in the middle', <OwnSizeGlyph />, () =>
          place('Own size of', placedInMiddle(thing, project.canvas, 'own')),
        )}
        {button('Mirror left to right', <MirrorSidewaysGlyph />, () =>
          place('Mirror', flipped(thing.placement, thing, true)),
        )}
        {button('Mirror top to bottom', <MirrorUpsideDownGlyph />, () =>
          place('Mirror', flipped(thing.placement, thing, false)),
        )}
      </div>
    </section>
  )
}
