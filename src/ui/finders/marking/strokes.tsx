import { type Mark } from '@/core/fields/marks'
import { useBench } from '@/ui/store/bench'
import { type Drag, type HandlesProps, type Press } from '../finder'
import { type Point, simplify } from '../outline/simplify'

export type MarkKind = 'keep' | 'drop' | 'unsure'
/** Ours: keep is solid blue, drop hatched amber, unsure dotted violet; so they differ without their colours too. */
const LOOKS: Record<MarkKind, { colour: string; dash?: string; cap: 'round' | 'butt' }> = {
  keep: { colour: '#2351c8', cap: 'round' },
  drop: { colour: '#b36b00', dash: '3 3', cap: 'butt' },
  unsure: { colour: '#6d3fc4', dash: '0.1 1.6', cap: 'round' },
}
/** Strokes are thinner on the screen than what they mark, so that the picture is seen under them. */
const THINNER = 0.5,
  THICKEST = 14,
  SLIM = 2.5
/** How far a kept stroke may lie from the drawn one, CSS px. */
const TOLERANCE_PX = 0.7

/** @param slim as lines, where what lies under them is what matters */
export function MarkStrokes({
  strokes,
  toScreen,
  slim = false,
}: {
  strokes: readonly (Mark & { readonly mode: MarkKind })[]
  toScreen: HandlesProps<unknown>['toScreen']
  slim?: boolean
}) {
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    scale = Math.abs(bx - ax)
  return (
    <g pointerEvents="none" fill="none" strokeLinejoin="round">
      {strokes.map(({ points, size, mode }, i) => {
        const { colour, dash, cap } = LOOKS[mode],
          width = slim ? SLIM : Math.max(3, Math.min(THICKEST, size * scale * THINNER))
        const line = (points.length > 1 ? points : [points[0], [points[0][0] + 0.01, points[0][1]] as const])
          .map(([x, y]) => toScreen(x, y).join(','))
          .join(' ')
        const dashes = mode === 'unsure' ? `0.1 ${width * 1.6}` : dash
        return (
          <g key={i} data-mark={mode}>
            <polyline
              points={line}
              stroke="#fff"
              strokeWidth={slim ? width + 1 : width + 2.5}
              strokeLinecap="round"
              opacity={0.75}
            />
            <polyline
              points={line}
              stroke={colour}
              strokeWidth={width}
              strokeLinecap={cap}
              strokeDasharray={dashes}
              opacity={0.9}
            />
          </g>
        )
      })}
    </g>
  )
}

/** The marker where the pointer is. */
export function MarkRing({
  toScreen,
  pointer,
  mode,
}: Pick<HandlesProps<unknown>, 'toScreen' | 'pointer'> & { mode: MarkKind }) {
  const size = useBench((state) => state.marker.size)
  if (!pointer) return null
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    r = Math.max(2, (Math.abs(bx - ax) * size) / 2)
  return (
    <g pointerEvents="none" fill="none">
      <circle cx={pointer[0]} cy={pointer[1]} r={r} stroke="#fff" strokeWidth={3} />
      <circle
        cx={pointer[0]}
        cy={pointer[1]}
        r={r}
        stroke={LOOKS[mode].colour}
        strokeWidth={1.5}
        strokeDasharray={LOOKS[mode].dash && '3 3'}
      />
    </g>
  )
}

/** A stroke as it is drawn: `put` shows it, `end` makes it an act. */
export function drawMark(
  at: Pick<Press, 'point' | 'scale'>,
  put: (points: Mark['points']) => void,
  end: () => void,
): Drag {
  const drawn: Point[] = [at.point],
    tenth = ([x, y]: Point): [number, number] => [Math.round(x * 10) / 10, Math.round(y * 10) / 10]
  put([tenth(at.point)])
  return {
    move(point) {
      drawn.push(point)
      put(simplify(drawn, TOLERANCE_PX / at.scale).map(tenth))
    },
    end,
  }
}
