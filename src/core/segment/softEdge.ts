/** A decided picture as a matte: placed on the canvas, with a hard edge or one that follows the colours of both sides. */
import { markEdges } from '../raster/edgeMarks'
import { type Box } from '../raster/content'
import { emptyMatte, type Matte, sameSize, type Size } from '../raster/picture'
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
    marks = new Uint8Array(state.length),
    edge = markEdges(state, 'decisions', frame, soft, (rows, first) => marks.set(rows, first))
  if (soft) softenEdge(marks, edge, levels[0])
  return placed({ width, height, data: marks }, frame, size)
}

/** A frame's matte where it lies on the canvas. */
export function placed(part: Matte, frame: Box, size: Size): Matte {
  if (sameSize(frame, size)) return part
  const matte = emptyMatte(size),
    { width, height, data } = part
  for (let row = 0; row < height; row++)
    matte.data.set(data.subarray(row * width, (row + 1) * width), (frame.y + row) * size.width + frame.x)
  return matte
}

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
