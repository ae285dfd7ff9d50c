/** Lines of composition inside a box, in shares of its width and height: rows of points, each row one line. */
import { type BoxLines } from '@/ui/store/rooms/view'

type Line = readonly (readonly [u: number, v: number])[]

export const BOX_LINES: readonly (readonly [BoxLines, string])[] = [
  ['none', 'no lines'],
  ['centre', 'centre lines'],
  ['grid', 'grid'],
  ['golden', 'golden section'],
  ['spiral', 'golden spiral'],
  ['triangle', 'golden triangle'],
  ['diagonals', 'diagonals'],
]

const GOLDEN = (1 + Math.sqrt(5)) / 2
const SPIRAL_ARCS = 9,
  ARC_PIECES = 12

const down = (u: number): Line => [
  [u, 0],
  [u, 1],
]
const across = (v: number): Line => [
  [0, v],
  [1, v],
]
const both = (places: readonly number[]): Line[] => places.flatMap((place) => [down(place), across(place)])
/** Between so many equal parts. */
const between = (parts: number): number[] => Array.from({ length: parts - 1 }, (_, k) => (k + 1) / parts)

/** @param aspect width ÷ height of the box @param flip bit 0 mirrors across, bit 1 down @param columns, rows of a grid */
export function boxLines(
  kind: BoxLines,
  aspect: number,
  flip: number,
  [columns, rows]: readonly [number, number] = [3, 3],
): Line[] {
  const lines =
    kind === 'grid' ? [...between(columns).map(down), ...between(rows).map(across)] : unflipped(kind, aspect)
  return lines.map((line) => line.map(([u, v]) => [flip & 1 ? 1 - u : u, flip & 2 ? 1 - v : v] as const))
}

function unflipped(kind: BoxLines, aspect: number): Line[] {
  if (kind === 'centre') return both([1 / 2])
  if (kind === 'golden') return both([1 - 1 / GOLDEN, 1 / GOLDEN])
  if (kind === 'diagonals')
    return [
      [
        [0, 0],
        [1, 1],
      ],
      [
        [1, 0],
        [0, 1],
      ],
    ]
  if (kind === 'spiral') return [spiral()]
  if (kind === 'triangle') {
    // A diagonal, and from the two other corners the perpendiculars onto it.
    const foot = 1 / (1 + aspect * aspect)
    return [
      [
        [0, 1],
        [1, 0],
      ],
      [
        [0, 0],
        [foot, 1 - foot],
      ],
      [
        [1, 1],
        [1 - foot, foot],
      ],
    ]
  }
  return []
}

/** Quarter circles in the squares a golden rectangle leaves, stretched to the box. */
function spiral(): [number, number][] {
  const points: [number, number][] = []
  let x = 0,
    y = 0,
    width = GOLDEN,
    height = 1
  for (let n = 0; n < SPIRAL_ARCS; n++) {
    const side = Math.min(width, height),
      turn = n % 4
    // The square lies left, above, right, below what is left over; its arc's middle is the corner that faces it.
    const left = turn === 2 ? x + width - side : x,
      top = turn === 3 ? y + height - side : y
    const centre = [turn === 0 || turn === 3 ? left + side : left, turn === 0 || turn === 1 ? top + side : top]
    for (let k = n ? 1 : 0; k <= ARC_PIECES; k++) {
      const angle = Math.PI + (turn + k / ARC_PIECES) * (Math.PI / 2)
      points.push([(centre[0] + side * Math.cos(angle)) / GOLDEN, centre[1] + side * Math.sin(angle)])
    }
    if (turn === 0) {
      x += side
      width -= side
    } else if (turn === 1) {
      y += side
      height -= side
    } else if (turn === 2) width -= side
    else height -= side
  }
  return points
}
