'use client'
import { FlipHorizontal2, FlipVertical2, Maximize2, Minimize2, Scan } from 'lucide-react'
import { compose, translation, type Affine } from '@/core/raster/affine'
import { type Project } from '@/document/types'
import { Choice } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { act, set, useBench } from '@/ui/store/bench'
import { placeableOf } from '@/ui/canvas/placeable'
import { changedAboutMiddle, flipped, placedInMiddle, placementOf } from '@/ui/canvas/placement'

const FAR = 1e6,
  LARGEST = 100_000

/** Where the active layer, or its mask, lies: typed, or by the handles on the canvas. */
export function PlacePanel({ project }: { project: Project }) {
  const placing = useBench((state) => state.placing)
  const thing = placeableOf(project, placing),
    active = project.layers.find((layer) => layer.id === project.activeLayer)
  const which = active?.mask?.unlinked ? (
    <Choice
      small
      label="What is placed"
      value={placing}
      options={[
        ['layer', 'layer'],
        ['mask', 'mask'],
      ]}
      onChange={(next) => set({ placing: next })}
    />
  ) : null
  if (!thing)
    return (
      <>
        <p className="mb-3 px-1 text-xs text-[var(--muted)]">
          {active
            ? `${active.name} acts on all of the canvas: there is nothing to place${active.mask ? '; unlink its mask to place that' : ''}.`
            : 'Choose a layer on the right to place it.'}
        </p>
        {which}
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
  ) => (
    <label className="flex items-center justify-between text-[13px]">
      {label}
      <NumberField
        label={label}
        value={value}
        min={min}
        max={max}
        unit={unit}
        digits={digits}
        className="w-24"
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
    <section aria-label="Place" className="mb-3 px-1">
      {which}
      <div className="mb-1.5 space-y-0.5">
        {field('X', x, 'px', 1, -FAR, FAR, (value) =>
          place('Move', compose(translation(value - x, 0), thing.placement)),
        )}
        {field('Y', y, 'px', 1, -FAR, FAR, (value) =>
          place('Move', compose(translation(0, value - y), thing.placement)),
        )}
        {field('Scale', Math.sqrt(Math.abs(across * down)) * 100, '%', 1, 0, LARGEST, (value) => {
          const now = Math.sqrt(Math.abs(across * down)) || 1,
            by = value / 100 / now
          about('Scale', { across: (across || 1) * by, down: (down || 1) * by })
        })}
        {field('Across', across * 100, '%', 1, 0, LARGEST, (value) => about('Stretch', { across: value / 100 }))}
        {field('Down', down * 100, '%', 1, -LARGEST, LARGEST, (value) => about('Stretch', { down: value / 100 }))}
        {field('Turn', turn, '°', 1, -360, 360, (value) => about('Turn', { turn: value }))}
        {field('Skew', skew, '°', 1, -85, 85, (value) => about('Skew', { skew: value }))}
      </div>
      <div className="flex justify-between">
        {button('Fit into the canvas', <Minimize2 size={16} />, () =>
          place('Fit', placedInMiddle(thing, project.canvas, 'fit')),
        )}
        {button('Cover the canvas', <Maximize2 size={16} />, () =>
          place('Cover with', placedInMiddle(thing, project.canvas, 'cover')),
        )}
        {button('Own size, in the middle', <Scan size={16} />, () =>
          place('Own size of', placedInMiddle(thing, project.canvas, 'own')),
        )}
        {button('Flip left to right', <FlipHorizontal2 size={16} />, () =>
          place('Flip', flipped(thing.placement, thing, true)),
        )}
        {button('Flip top to bottom', <FlipVertical2 size={16} />, () =>
          place('Flip', flipped(thing.placement, thing, false)),
        )}
      </div>
    </section>
  )
}
