import { type Size } from '../../raster/picture'

/** Pixels handled between two yields: a few milliseconds of work. */
const SLICE = 100_000

/**
 * For each pixel the smallest tolerance at which it joins a connected pick from (x, y): the least, over all paths from the seed, of
 * the greatest distance on the path (the minimax path cost). One pass of a bucket queue, each pixel entering it once; within a
 * bucket the order does not matter. Yields its progress (0-1). Memory while it runs: 5 bytes a pixel.
 * Source: Dial, "Algorithm 360: shortest-path forest with topological ordering", Communications of the ACM 12 (1969), with
 * max in place of sum (the watershed-by-flooding order of Meyer 1994).
 */
export function* joinCosts(distance: Uint8Array, { width, height }: Size, x: number, y: number): Generator<number, Uint8Array> {
  const count = width * height
  const NEW = -2, END = -1
  const cost = new Uint8Array(count)
  const next = new Int32Array(count).fill(NEW) // the bucket's chain, and the mark of having been reached
  const first = new Int32Array(256).fill(END)
  const seed = y * width + x
  next[seed] = END
  cost[seed] = distance[seed]
  first[distance[seed]] = seed
  let done = 0, pause = SLICE
  for (let level = 0; level < 256; level++) {
    while (first[level] !== END) {
      const i = first[level]
      first[level] = next[i]
      const column = i % width
      if (column > 0 && next[i - 1] === NEW) { const d = distance[i - 1], c = d > level ? d : level; cost[i - 1] = c; next[i - 1] = first[c]; first[c] = i - 1 }
      if (column < width - 1 && next[i + 1] === NEW) { const d = distance[i + 1], c = d > level ? d : level; cost[i + 1] = c; next[i + 1] = first[c]; first[c] = i + 1 }
      if (i >= width && next[i - width] === NEW) { const d = distance[i - width], c = d > level ? d : level; cost[i - width] = c; next[i - width] = first[c]; first[c] = i - width }
      if (i + width < count && next[i + width] === NEW) { const d = distance[i + width], c = d > level ? d : level; cost[i + width] = c; next[i + width] = first[c]; first[c] = i + width }
      if (++done === pause) { yield done / count; pause += SLICE }
    }
  }
  return cost
}

/** Pixels within the tolerance: 255 there, 0 elsewhere. */
export function within(cost: Uint8Array, tolerance: number): Uint8Array {
  const out = new Uint8Array(cost.length)
  for (let i = 0; i < cost.length; i++) out[i] = cost[i] <= tolerance ? 255 : 0
  return out
}
