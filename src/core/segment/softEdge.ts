/** A decided picture as a matte: placed on the canvas, with a hard edge or one that follows the colours of both sides. */
import { withRoom } from '../kernels'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { softenEdge } from '../raster/softenEdge'
import { INSIDE } from './gridCut'
import { type SegmentView } from './view'

/** @param state INSIDE where covered, for the view's full size @param soft coverage at the edge from the picture's colours */
export function stateToMatte(
  state: Uint8Array,
  { frame, levels }: Pick<SegmentView, 'frame' | 'levels'>,
  size: Size,
  soft: boolean,
): Matte {
  const { width, height } = frame,
    { marks, edge } = marked(state, frame, soft)
  if (soft) softenEdge(marks, edge, levels[0])
  if (width === size.width && height === size.height) return { width, height, data: marks }
  const matte = emptyMatte(size)
  for (let row = 0; row < height; row++)
    matte.data.set(marks.subarray(row * width, (row + 1) * width), (frame.y + row) * size.width + frame.x)
  return matte
}

/** Decisions as marks, and where the px on either side of the edge are; without `soft` there are none. */
function marked(state: Uint8Array, { width, height }: Size, soft: boolean): { marks: Uint8Array; edge: Int32Array } {
  return withRoom((stack) => {
    const { run } = stack,
      from = stack.take(state.length + ROOM) + 1,
      to = stack.take(state.length + ROOM),
      found = stack.take(width * 4),
      edges: Int32Array[] = []
    stack.bytes(from, state.length).set(state)
    let count = 0
    for (let y = 0, row = from; y < height; y++, row += width) {
      const n = run.markRow(
        y > 0 ? row - width : row,
        row,
        y + 1 < height ? row + width : row,
        width,
        to + y * width,
        found,
        y * width,
        soft,
      )
      if (n) {
        edges.push(stack.words(found, n).slice())
        count += n
      }
    }
    const edge = new Int32Array(count)
    let at = 0
    for (const part of edges) {
      edge.set(part, at)
      at += part.length
    }
    return { marks: stack.bytes(to, state.length).slice(), edge }
  })
}
/** Rows are worked on 16 px at a time, and a px to either side is looked at: planes have room for it, bytes. */
const ROOM = 18

/** A draft: the small level's state, each of its pixels as the square it stands for. */
export function draftMatte(
  state: Uint8Array,
  { frame, levels }: Pick<SegmentView, 'frame' | 'levels'>,
  size: Size,
): Matte {
  const matte = emptyMatte(size),
    { width: across, height: down } = levels.at(-1)!,
    side = 2 ** (levels.length - 1)
  for (let v = 0; v < down; v++) {
    const top = frame.y + v * side,
      from = top * size.width + frame.x,
      end = from + frame.width
    for (let u = 0, k = v * across; u < across; u++, k++) {
      if (state[k] !== INSIDE) continue
      const first = u
      while (u + 1 < across && state[k + 1] === INSIDE) {
        u++
        k++
      }
      matte.data.fill(255, from + first * side, Math.min(end, from + (u + 1) * side))
    }
    for (let y = top + 1; y < Math.min(frame.y + frame.height, top + side); y++)
      matte.data.copyWithin(y * size.width + frame.x, from, end)
  }
  return matte
}
