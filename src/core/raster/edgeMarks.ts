import { SLICE_BYTES, withRoom } from '../kernels'
import { type Size } from './picture'

/** What a byte says while a pick is being made: sure inside, sure outside, or on either side of the edge. */
export const IN = 255,
  IN_EDGE = 254,
  OUT_EDGE = 1,
  OUT = 0

/** Rows are worked on 16 px at a time, and a px to either side is looked at: planes have room for it, bytes. */
const ROOM = 18

/**
 * Marks anew, row by row, and where the px on either side of the edge are; without `soft` all are sure, and there are none.
 * @param source decisions (2 inside, another value outside), or marks of any kind @param take gets marks, and the first of the px they are of
 */
export function markEdges(
  source: Uint8Array,
  of: 'decisions' | 'marks',
  { width, height }: Size,
  soft: boolean,
  take: (marks: Uint8Array, first: number) => void,
): Int32Array {
  return withRoom((stack) => {
    const { run } = stack,
      most = Math.max(1, Math.floor(SLICE_BYTES / width)),
      bytes = (Math.min(most, height) + 2) * width,
      from = stack.take(bytes + ROOM) + 1,
      to = stack.take(bytes + ROOM),
      found = stack.take(width * 4),
      edges: Int32Array[] = []
    let count = 0
    for (let first = 0; first < height; first += most) {
      // With the row above and the one below, where there is one.
      const rows = Math.min(most, height - first),
        top = Math.max(0, first - 1),
        end = Math.min(height, first + rows + 1)
      stack.bytes(from, (end - top) * width).set(source.subarray(top * width, end * width))
      if (of === 'marks') run.decideMarks(from, (end - top) * width)
      for (let y = first; y < first + rows; y++) {
        const row = from + (y - top) * width,
          n = run.markRow(
            y > 0 ? row - width : row,
            row,
            y + 1 < height ? row + width : row,
            width,
            to + (y - first) * width,
            found,
            y * width,
            soft,
          )
        if (n) {
          edges.push(stack.words(found, n).slice())
          count += n
        }
      }
      take(stack.bytes(to, rows * width), first * width)
    }
    const edge = new Int32Array(count)
    let at = 0
    for (const part of edges) {
      edge.set(part, at)
      at += part.length
    }
    return edge
  })
}

/** Marks to a hard mask, in place. */
export function hardened(marks: Uint8Array, edge: Int32Array): Uint8Array {
  for (let k = 0; k < edge.length; k++) marks[edge[k]] = marks[edge[k]] === IN_EDGE ? IN : OUT
  return marks
}
