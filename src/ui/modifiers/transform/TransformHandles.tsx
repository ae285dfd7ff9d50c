import { useEffect, useRef, useState } from 'react'
import { type Affine, apply, compose, inverse, rotation, scaling, translation } from '@/core/raster/affine'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type HandlesProps } from '@/ui/finders/finder'
import { preview, settle, useBench } from '@/ui/store/bench'
import { BOX_PLACES } from '@/ui/canvas/box'
import { Grip } from '@/ui/canvas/Grip'
import { HeldOutline } from '@/ui/canvas/HeldOutline'

type Corners = readonly (readonly [number, number])[]
const TURN_PX = 28
const LEAST = 0.01

/** The box around the selection: inside it moves, corners scale it (with Alt about its middle), sides stretch it, the round grip turns it. */
export function TransformHandles({ step, home, toScreen, fromScreen }: HandlesProps<StepOfKind<'transform'>>) {
  const bounds = useBench((state) => (state.live ? undefined : state.result?.bounds))
  // The box before this step: what is around the result, taken back through the matrix it was made with.
  const [base, setBase] = useState<Corners | null>(null)
  const { matrix } = step
  useEffect(() => {
    if (!bounds || base) return
    const { x, y, width, height } = bounds
    try {
      const back = inverse(matrix)
      setBase(
        (
          [
            [x, y],
            [x + width, y],
            [x + width, y + height],
            [x, y + height],
          ] as const
        ).map((p) => apply(back, ...p)),
      )
    } catch {
      /* flattened: nothing to hold */
    }
  }, [bounds, base, matrix])
  /** The matrix and where the pointer was when a drag began. */
  const from = useRef<{ matrix: Affine; point: readonly [number, number] } | null>(null)
  if (!base) return null
  const at = (u: number, v: number): [number, number] => {
    const mix = (k: 0 | 1) => base[0][k] + u * (base[1][k] - base[0][k]) + v * (base[3][k] - base[0][k])
    return [mix(0), mix(1)]
  }
  const shown = (u: number, v: number) => toScreen(...apply(matrix, ...at(u, v)))
  const show = (next: Affine) => preview(changeStep(home, step.id!, { matrix: next }))
  /** Scales the base box about one of its places, then goes on with the matrix. */
  const stretch = (u: number, v: number, px: number, py: number, centred: boolean, even: boolean) => {
    const start = (from.current ??= { matrix, point: [px, py] }).matrix
    const fixed = centred ? [0.5, 0.5] : [1 - u, 1 - v]
    const [x, y] = apply(inverse(start), ...fromScreen(px, py))
    const [fx, fy] = at(fixed[0], fixed[1]),
      [hx, hy] = at(u, v)
    let sx = u === 0.5 ? 1 : (x - fx) / (hx - fx),
      sy = v === 0.5 ? 1 : (y - fy) / (hy - fy)
    if (even && u !== 0.5 && v !== 0.5) sx = sy = Math.max(Math.abs(sx), Math.abs(sy))
    const kept = (s: number) => (Math.abs(s) < LEAST ? LEAST : s)
    show(compose(start, compose(translation(fx, fy), compose(scaling(kept(sx), kept(sy)), translation(-fx, -fy)))))
  }
  const corners = [shown(0, 0), shown(1, 0), shown(1, 1), shown(0, 1)]
  const top = shown(0.5, 0),
    middle = shown(0.5, 0.5)
  const up = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1
  const turn = [top[0] + ((top[0] - middle[0]) / up) * TURN_PX, top[1] + ((top[1] - middle[1]) / up) * TURN_PX]
  const points = corners.map((c) => c.join(',')).join(' ')
  const done = () => {
    from.current = null
  }
  return (
    <g>
      <MoveArea
        points={points}
        begin={(x, y) => {
          from.current = { matrix, point: fromScreen(x, y) }
        }}
        drag={(x, y) => {
          const { matrix: start, point } = from.current!,
            [nx, ny] = fromScreen(x, y)
          show(compose(translation(Math.round(nx - point[0]), Math.round(ny - point[1])), start))
        }}
        end={done}
      />
      <HeldOutline points={points} dashed />
      <line x1={top[0]} y1={top[1]} x2={turn[0]} y2={turn[1]} stroke="#1b1b1b" pointerEvents="none" />
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = shown(u, v)
        return (
          <Grip
            key={name}
            label={`Scale selection ${name}`}
            cursor="move"
            shape="square"
            x={x}
            y={y}
            drag={(px, py, event) => stretch(u, v, px, py, event.altKey, !event.shiftKey)}
            end={done}
          />
        )
      })}
      <Grip
        label="Rotate selection"
        cursor="grab"
        shape="round"
        x={turn[0]}
        y={turn[1]}
        end={done}
        drag={(px, py, event) => {
          const start = (from.current ??= { matrix, point: [turn[0], turn[1]] })
          const angle = (x: number, y: number) => (Math.atan2(y - middle[1], x - middle[0]) * 180) / Math.PI
          const by = angle(px, py) - angle(start.point[0], start.point[1]),
            [mx, my] = fromScreen(middle[0], middle[1])
          show(compose(rotation(event.shiftKey ? Math.round(by / 15) * 15 : by, mx, my), start.matrix))
        }}
      />
    </g>
  )
}

function MoveArea({
  points,
  begin,
  drag,
  end,
}: {
  points: string
  begin: (x: number, y: number) => void
  drag: (x: number, y: number) => void
  end: () => void
}) {
  const place = (event: React.PointerEvent<SVGElement>): [number, number] => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }
  const moved = useRef(false)
  return (
    <polygon
      points={points}
      fill="transparent"
      style={{ pointerEvents: 'all', cursor: 'move', touchAction: 'none' }}
      aria-label="Move the selection"
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        moved.current = false
        begin(...place(event))
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) {
          moved.current = true
          drag(...place(event))
        }
      }}
      onPointerUp={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
        event.stopPropagation()
        if (moved.current) settle('Move selection')
        end()
      }}
    />
  )
}
