import { useRef } from 'react'
import { type Affine, apply, compose, inverse, rotation, scaling, translation } from '@/core/raster/affine'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type HandlesProps } from '@/ui/finders/finder'
import { preview } from '@/ui/store/bench'
import { BOX_PLACES, pullCursor } from '@/ui/canvas/box'
import { Grip } from '@/ui/canvas/Grip'
import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { usePull } from '@/ui/canvas/pull'
import { TurnGrip } from '@/ui/canvas/TurnGrip'
import { useSelectedBefore } from './useSelectedBefore'

const LEAST = 0.01

/** The box around the selection: inside it moves, corners scale it (with Alt about its middle), sides stretch it, the round grip turns it. */
export function TransformHandles({ step, home, toScreen, fromScreen }: HandlesProps<StepOfKind<'transform'>>) {
  const box = useSelectedBefore(step),
    pull = usePull<Affine>(),
    /** The matrix when a corner or side was taken hold of. */
    start = useRef<Affine | null>(null)
  if (!box) return null
  const { matrix } = step
  const at = (u: number, v: number) => [box.x + u * box.width, box.y + v * box.height] as const,
    shown = (u: number, v: number) => toScreen(...apply(matrix, ...at(u, v))),
    edit = (next: Affine) => changeStep(home, step.id!, { matrix: next })
  /** Scales the box about one of its places, then goes on with the matrix. */
  const stretch = (u: number, v: number, px: number, py: number, centred: boolean, even: boolean) => {
    const from = (start.current ??= matrix)
    let back: Affine
    try {
      back = inverse(from)
    } catch {
      return // flattened: nothing to hold
    }
    const [fx, fy] = centred ? at(0.5, 0.5) : at(1 - u, 1 - v),
      [x, y] = apply(back, ...fromScreen(px, py)),
      [hx, hy] = at(u, v)
    let sx = u === 0.5 ? 1 : (x - fx) / (hx - fx),
      sy = v === 0.5 ? 1 : (y - fy) / (hy - fy)
    if (even && u !== 0.5 && v !== 0.5) sx = sy = Math.max(Math.abs(sx), Math.abs(sy))
    const kept = (s: number) => (Math.abs(s) < LEAST ? LEAST : s)
    preview(
      edit(compose(from, compose(translation(fx, fy), compose(scaling(kept(sx), kept(sy)), translation(-fx, -fy))))),
    )
  }
  const points = [shown(0, 0), shown(1, 0), shown(1, 1), shown(0, 1)].map((c) => c.join(',')).join(' '),
    middle = shown(0.5, 0.5)
  return (
    <g>
      <polygon
        points={points}
        fill="transparent"
        style={{ pointerEvents: 'all', cursor: 'move', touchAction: 'none' }}
        aria-label="Move the selection"
        {...pull('Move selection', matrix, (was, from, to) => {
          const [x0, y0] = fromScreen(...from),
            [x1, y1] = fromScreen(...to)
          const [dx, dy] = [Math.round(x1 - x0), Math.round(y1 - y0)]
          return dx || dy ? edit(compose(translation(dx, dy), was)) : null
        })}
      />
      <HeldOutline points={points} dashed />
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = shown(u, v)
        return (
          <Grip
            key={name}
            label={`Scale selection ${name}`}
            cursor={pullCursor(middle, [x, y])}
            shape="square"
            x={x}
            y={y}
            drag={(px, py, event) => stretch(u, v, px, py, event.altKey, !event.shiftKey)}
            end={() => {
              start.current = null
            }}
          />
        )
      })}
      <TurnGrip
        label="Rotate selection"
        middle={middle}
        top={shown(0.5, 0)}
        turn={(_, by) => preview(edit(compose(rotation(by, ...fromScreen(...middle)), matrix)))}
      />
    </g>
  )
}
