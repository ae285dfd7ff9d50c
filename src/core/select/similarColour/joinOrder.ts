import { type Size } from '../../raster/picture'

/** Pixels handled between two yields: a few milliseconds of work. */
const SLICE = 100_000

/**
 * All pixels in the order in which they join a pick as its tolerance grows.
 * Those within tolerance t are order[0 … ends[t]).
 */
export interface JoinOrder {
  readonly order: Int32Array
  /** 256 counts, never falling. */ readonly ends: Int32Array
}

/**
 * The order for a connected pick from (x, y). A pixel joins at the least, over all paths from the seed, of the greatest distance on
 * the path (the minimax path cost). One pass of a bucket queue, each pixel entering it once; within a bucket the order does not
 * matter. Yields its progress (0-1). Memory while it runs: 8 bytes a pixel; the result keeps 4.
 * Source: Dial, "Algorithm 360: shortest-path forest with topological ordering", Communications of the ACM 12 (1969), with
 * max in place of sum (the flooding order of Meyer's watersheds, 1994).
 */
export function* connectedOrder(
  distance: Uint8Array,
  { width, height }: Size,
  x: number,
  y: number,
): Generator<number, JoinOrder> {
  const count = width * height
  const NEW = -2,
    END = -1
  const order = new Int32Array(count),
    ends = new Int32Array(256)
  const next = new Int32Array(count).fill(NEW) // the bucket's chain, and the mark of having been reached
  const first = new Int32Array(256).fill(END)
  const seed = y * width + x
  next[seed] = END
  first[distance[seed]] = seed
  let done = 0,
    pause = SLICE
  for (let level = 0; level < 256; level++) {
    while (first[level] !== END) {
      const i = first[level]
      first[level] = next[i]
      order[done] = i
      const column = i % width
      if (column > 0 && next[i - 1] === NEW) {
        const d = distance[i - 1],
          c = d > level ? d : level
        next[i - 1] = first[c]
        first[c] = i - 1
      }
      if (column < width - 1 && next[i + 1] === NEW) {
        const d = distance[i + 1],
          c = d > level ? d : level
        next[i + 1] = first[c]
        first[c] = i + 1
      }
      if (i >= width && next[i - width] === NEW) {
        const d = distance[i - width],
          c = d > level ? d : level
        next[i - width] = first[c]
        first[c] = i - width
      }
      if (i + width < count && next[i + width] === NEW) {
        const d = distance[i + width],
          c = d > level ? d : level
        next[i + width] = first[c]
        first[c] = i + width
      }
      if (++done === pause) {
        yield done / count
        pause += SLICE
      }
    }
    ends[level] = done
  }
  return { order, ends }
}

/** The order for a pick everywhere: by distance alone (a counting sort). Yields its progress (0-1). */
export function* distanceOrder(distance: Uint8Array): Generator<number, JoinOrder> {
  const count = distance.length
  const ends = new Int32Array(256),
    next = new Int32Array(256),
    order = new Int32Array(count)
  for (let i = 0; i < count; i++) ends[distance[i]]++
  for (let t = 0, sum = 0; t < 256; t++) {
    next[t] = sum
    sum += ends[t]
    ends[t] = sum
  }
  for (let i = 0; i < count; i++) {
    order[next[distance[i]]++] = i
    if (i % (SLICE * 8) === 0) yield i / count
  }
  return { order, ends }
}
