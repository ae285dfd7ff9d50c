import { useId } from 'react'
import { type Mark } from '@/core/fields/marks'
import { useBench } from '@/ui/store/bench'
import { type Drag, type HandlesProps, type Press } from '../finder'
import { type Point, simplify } from '../outline/simplify'

export type MarkKind = 'keep' | 'drop' | 'unsure'
/** Ours: keep is blue with a solid middle line, drop amber with a dashed one, unsure violet with a dotted one; so they differ without their colours too. */
const LOOKS: Record<MarkKind, { colour: string; dash?: string; cap: 'round' | 'butt' }> = {
  keep: { colour: '#2351c8', cap: 'round' },
  drop: { colour: '#b36b00', dash: '5 4', cap: 'butt' },
  unsure: { colour: '#6d3fc4', dash: '0.1 5', cap: 'round' },
}
const KINDS = Object.keys(LOOKS) as MarkKind[]
/** CSS px: the middle line; the outline; a mark's least width. */
const SLIM = 2.5,
  OUTLINE = 1.6,
  LEAST = 4
/** What is marked is tinted no more than this, so that the picture is seen. */
const FILL = 0.22
/** How far a kept stroke may lie from the drawn one, CSS px. */
const TOLERANCE_PX = 0.7

type Stroke = Mark & { readonly mode: MarkKind }

/** Marks at their true width, as outlines over a light fill. @param slim as lines, where what lies under them is what matters */
export function MarkStrokes({
  strokes,
  toScreen,
  slim = false,
}: {
  strokes: readonly Stroke[]
  toScreen: HandlesProps<unknown>['toScreen']
  slim?: boolean
}) {
  const name = useId()
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    scale = Math.abs(bx - ax)
  const lineOf = ({ points }: Stroke): string =>
    (points.length > 1 ? points : [points[0], [points[0][0] + 0.01, points[0][1]] as const])
      .map(([x, y]) => toScreen(x, y).join(','))
      .join(' ')
  const widthOf = ({ size }: Stroke): number => Math.max(LEAST, size * scale)
  return (
    <g pointerEvents="none" fill="none" strokeLinejoin="round" strokeLinecap="round">
      {!slim &&
        KINDS.map((kind) => {
          const own = strokes
            .filter(({ mode }) => mode === kind)
            .map((stroke) => [lineOf(stroke), widthOf(stroke)] as const)
          if (!own.length) return null
          const mask = `${name}${kind}`
          // Strokes that overlap have one outline.
          const all = (by: number) =>
            own.map(([line, width], i) => <polyline key={i} points={line} strokeWidth={Math.max(0, width + by)} />)
          return (
            <g key={kind}>
              <mask id={mask} maskUnits="userSpaceOnUse" x="0" y="0" width="100%" height="100%">
                <g stroke="#fff">{all(OUTLINE)}</g>
                <g stroke="#000">{all(-OUTLINE)}</g>
              </mask>
              <g stroke={LOOKS[kind].colour} opacity={FILL}>
                {all(0)}
              </g>
              <rect width="100%" height="100%" fill={LOOKS[kind].colour} mask={`url("#${mask}")`} />
            </g>
          )
        })}
      {strokes.map((stroke, i) => {
        const { colour, dash, cap } = LOOKS[stroke.mode],
          line = lineOf(stroke)
        return (
          <g key={i} data-mark={stroke.mode}>
            <polyline points={line} stroke="#fff" strokeWidth={SLIM + 1.5} opacity={0.75} />
            <polyline
              points={line}
              stroke={colour}
              strokeWidth={SLIM}
              strokeLinecap={cap}
              strokeDasharray={dash}
              opacity={0.95}
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
