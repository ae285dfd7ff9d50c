import { useRef } from 'react'
import { apply, compose, inverse, scaling, translation, type Affine } from '@/core/raster/affine'
import { type Project } from '@/document/records'
import { preview, useBench } from '@/ui/store/bench'
import { heldIn } from '@/ui/store/focus'
import { BOX_PLACES, pullCursor } from './box'
import { Grip, type GripKeys, isFree } from './Grip'
import { HeldOutline } from './HeldOutline'
import { placeableOf } from './placeable'
import { scaledAbout, turnedAboutMiddle } from './placement'
import { layerSnapper, type Snapper } from './snapping'
import { TurnGrip } from './TurnGrip'

const LEAST_SCALE = 0.005

/** The box of what is placed: corners scale it about the opposite corner (Alt: about the middle), sides stretch it (Ctrl: skew it), the round grip turns it. */
export function PlaceHandles({ project, map }: { project: Project; map: Affine }) {
  const what = useBench(heldIn)
  const snap = useRef<Snapper | null>(null)
  const thing = placeableOf(project, what)
  if (!thing || thing.problem) return null
  const { placement, width, height } = thing
  const toScreen = compose(map, placement)
  const at = (u: number, v: number) => apply(toScreen, u * width, v * height)
  const corners = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)]
  const top = at(0.5, 0),
    middle = at(0.5, 0.5)
  const show = (next: Affine) => preview(thing.place(next))
  const points = corners.map((corner) => corner.join(',')).join(' ')
  const toCanvas = (x: number, y: number): [number, number] => apply(inverse(map), x, y)
  const scaleCorner = (u: number, v: number, px: number, py: number, event: GripKeys) => {
    const [x, y] = at(u, v),
      fixed = event.altKey ? middle : at(1 - u, 1 - v)
    const was = Math.hypot(x - fixed[0], y - fixed[1]) || 1
    // Where the corner would come to lie along its diagonal, drawn to what is near.
    const along = ((px - fixed[0]) * (x - fixed[0]) + (py - fixed[1]) * (y - fixed[1])) / (was * was)
    const [cx, cy] = toCanvas(fixed[0], fixed[1]),
      [hx, hy] = toCanvas(x, y)
    const next = Math.max(LEAST_SCALE, along),
      landed: [number, number] = [cx + (hx - cx) * next, cy + (hy - cy) * next]
    snap.current ??= layerSnapper(thing.id, Math.hypot(map[0], map[1]))
    const [dx, dy] = snap.current.offset([landed[0]], [landed[1]], isFree(event))
    const drawn =
      dx !== 0 && hx !== cx
        ? (landed[0] + dx - cx) / (hx - cx)
        : dy !== 0 && hy !== cy
          ? (landed[1] + dy - cy) / (hy - cy)
          : next
    show(scaledAbout(placement, Math.max(LEAST_SCALE, drawn), cx, cy))
  }
  const stretchSide = (u: number, v: number, px: number, py: number, event: GripKeys) => {
    let back: Affine
    try {
      back = inverse(toScreen)
    } catch {
      return
    }
    const [lx, ly] = apply(back, px, py),
      [fx, fy] = event.altKey ? [width / 2, height / 2] : [(1 - u) * width, (1 - v) * height],
      [hx, hy] = [u * width, v * height]
    if (event.ctrlKey || event.metaKey) {
      // along the side: the opposite one stays
      const lean: Affine = u === 0.5 ? [1, 0, (lx - hx) / (hy - fy), 1, 0, 0] : [1, (ly - hy) / (hx - fx), 0, 1, 0, 0]
      show(compose(placement, compose(translation(fx, fy), compose(lean, translation(-fx, -fy)))))
      return
    }
    const least = (s: number) => (Math.abs(s) < LEAST_SCALE ? LEAST_SCALE : s)
    show(
      compose(
        placement,
        compose(
          translation(fx, fy),
          compose(
            scaling(u === 0.5 ? 1 : least((lx - fx) / (hx - fx)), v === 0.5 ? 1 : least((ly - fy) / (hy - fy))),
            translation(-fx, -fy),
          ),
        ),
      ),
    )
  }
  return (
    <g>
      <HeldOutline points={points} dashed={what === 'mask' && thing.name.startsWith('mask of')} />
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = at(u, v),
          corner = u !== 0.5 && v !== 0.5
        return (
          <Grip
            key={name}
            label={`${corner ? 'Scale' : 'Stretch'} ${thing.name} ${name}`}
            cursor={pullCursor(middle, [x, y])}
            x={x}
            y={y}
            shape="square"
            drag={(px, py, event) => (corner ? scaleCorner : stretchSide)(u, v, px, py, event)}
            end={() => {
              snap.current?.end()
              snap.current = null
            }}
          />
        )
      })}
      <TurnGrip
        label={`Rotate ${thing.name}`}
        middle={middle}
        top={top}
        turn={(_, by) => show(turnedAboutMiddle(placement, thing, by))}
      />
    </g>
  )
}
