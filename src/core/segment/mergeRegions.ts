/** Regions merged in pairs, the cheapest first, into a tree. */
import FlatQueue from 'flatqueue'
import { mapInto } from '../raster/mapInto'
import { type Size } from '../raster/picture'
import { type LabPlanes } from './labPlanes'
import { type MergeCost, type RegionTree } from './mergeCost'

/** Neighbours across thin things are looked for when so many regions are left. */
const FEW = 3000
/** Thin is up to this share of the picture's diagonal, and unlike both sides by so many CIELAB units, and so many times more than they are unlike each other. */
const THIN = 0.009,
  CLEARLY = 10,
  TIMES = 2
/** The strength of such a boundary, CIELAB units a pixel. */
const BETWEEN = 1

/** From so many regions on, one that stands out is unlike one that does not by so many CIELAB units, however much they look alike. */
const STANDING = { regions: 1000, unlike: 300 }

interface Links {
  readonly pairs: readonly number[]
  readonly lengths: readonly number[]
}

/** Regions that lie on either side of something thin, along rows and columns. @param regionOf of each basin @param colour of each region */
export function acrossThin(
  basinOf: Int32Array,
  { width, height }: Size,
  regionOf: Int32Array,
  colour: Float32Array,
): Links {
  const index = new Map<number, number>(),
    pairs: number[] = [],
    lengths: number[] = [],
    thin = THIN * Math.hypot(width, height)
  const apart = (p: number, q: number) =>
    Math.hypot(
      colour[p * 3] - colour[q * 3],
      colour[p * 3 + 1] - colour[q * 3 + 1],
      colour[p * 3 + 2] - colour[q * 3 + 2],
    )
  const regions = new Int32Array(Math.max(width, height) + 1),
    starts = new Int32Array(regions.length + 1)
  const along = (first: number, step: number, count: number) => {
    let runs = 0
    for (let k = 0, i = first; k < count; k++, i += step) {
      const region = regionOf[basinOf[i]]
      if (runs === 0 || region !== regions[runs - 1]) {
        regions[runs] = region
        starts[runs++] = k
      }
    }
    starts[runs] = count
    const wide = (run: number) => starts[run + 1] - starts[run] > 1
    for (let a = 0; a < runs; a++)
      for (let b = a + 2; b < runs && starts[b] - starts[a + 1] <= thin; b++) {
        const p = Math.min(regions[a], regions[b]),
          q = Math.max(regions[a], regions[b])
        if (p === q || !wide(a) || !wide(b)) continue
        const least = CLEARLY + TIMES * apart(p, q)
        let clear = false
        for (let t = a + 1; t < b && !clear; t++) clear = apart(p, regions[t]) >= least && apart(q, regions[t]) >= least
        if (!clear) continue
        const key = p * 2 * basinOf.length + q,
          known = index.get(key)
        if (known === undefined) {
          index.set(key, lengths.length)
          pairs.push(p, q)
          lengths.push(1)
        } else lengths[known]++
      }
  }
  for (let y = 0; y < height; y++) along(y * width, 1, width)
  for (let x = 0; x < width; x++) along(x, width, height)
  return { pairs, lengths }
}

interface Graph {
  area: Float64Array
  sums: Float64Array
  table: { pairs: Int32Array; lengths: Float32Array; strengths: Float32Array }
}

export function neighbours(
  basinOf: Int32Array,
  basins: number,
  { width, height, L, a, b }: LabPlanes,
  gradient: Float32Array,
): Graph {
  const area = new Float64Array(basins),
    sums = new Float64Array(basins * 3)
  const index = new Map<number, number>(),
    ends: number[] = [],
    lengths: number[] = [],
    strengths: number[] = []
  const meet = (i: number, j: number) => {
    const p = basinOf[i],
      q = basinOf[j]
    if (p === q) return
    const low = p < q ? p : q,
      high = p < q ? q : p,
      key = low * basins + high
    let k = index.get(key)
    if (k === undefined) {
      index.set(key, (k = lengths.length))
      ends.push(low, high)
      lengths.push(0)
      strengths.push(0)
    }
    lengths[k]++
    strengths[k] += Math.max(gradient[i], gradient[j])
  }
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const r = basinOf[i]
      area[r]++
      sums[r * 3] += L[i]
      sums[r * 3 + 1] += a[i]
      sums[r * 3 + 2] += b[i]
      if (x < width - 1) meet(i, i + 1)
      if (y < height - 1) meet(i, i + width)
    }
  return {
    area,
    sums,
    table: {
      pairs: new Int32Array(ends),
      lengths: new Float32Array(lengths),
      strengths: mapInto(new Float32Array(lengths.length), strengths, (s, k) => s / lengths[k]),
    },
  }
}

/** What is taken into account when fewer regions are left: neighbours across thin things, and how far each basin stands out, 0-1. */
interface Later {
  across?: (regionOf: Int32Array, colour: Float32Array) => Links
  standing?: Float32Array
}

export function merge(
  { area: areas, sums, table }: Graph,
  basins: number,
  { boundary, size }: MergeCost,
  { across, standing }: Later,
  check: (progress: number) => void,
): Pick<RegionTree, 'parent' | 'mergeCost' | 'area' | 'colour'> {
  const most = 2 * basins - 1
  const parent = new Int32Array(most).map((_, i) => i),
    area = new Float32Array(most),
    mergeCost = new Float32Array(most),
    colour = new Float32Array(most * 3)
  for (let i = 0; i < basins; i++) {
    area[i] = areas[i]
    for (let c = 0; c < 3; c++) colour[i * 3 + c] = sums[i * 3 + c] / areas[i]
  }
  // For each live region, its neighbours with the boundary's length and summed strength.
  const around: (Map<number, { length: number; strength: number; cost: number }> | null)[] = Array.from(
    { length: most },
    () => null,
  )
  for (let i = 0; i < basins; i++) around[i] = new Map()
  let heap = new FlatQueue<number>(),
    unlike = 0
  const stands = new Float32Array(most)
  if (standing) stands.set(standing)
  const cost = (p: number, q: number, strength: number): number => {
    const dl = colour[p * 3] - colour[q * 3],
      da = colour[p * 3 + 1] - colour[q * 3 + 1],
      db = colour[p * 3 + 2] - colour[q * 3 + 2],
      ds = unlike * (stands[p] - stands[q])
    return (
      (Math.sqrt(dl * dl + da * da + db * db + ds * ds) + boundary * strength) *
      ((area[p] * area[q]) / (area[p] + area[q])) ** size
    )
  }
  const connect = (p: number, q: number, length: number, strength: number) => {
    const shared = { length, strength, cost: cost(p, q, strength / length) }
    around[p]!.set(q, shared)
    around[q]!.set(p, shared)
    heap.push(p * most + q, shared.cost)
  }
  for (let k = 0; k < table.lengths.length; k++)
    connect(table.pairs[2 * k], table.pairs[2 * k + 1], table.lengths[k], table.lengths[k] * table.strengths[k])
  let made = basins
  while (heap.length && made < most) {
    if (across && most - made <= FEW) {
      const { pairs, lengths } = across(topsOf(parent, made).subarray(0, basins), colour)
      for (let k = 0; k < lengths.length; k++)
        if (!around[pairs[2 * k]]!.has(pairs[2 * k + 1]))
          connect(pairs[2 * k], pairs[2 * k + 1], lengths[k], lengths[k] * BETWEEN)
      across = undefined
    }
    if (standing && most - made <= STANDING.regions) {
      standing = undefined
      unlike = STANDING.unlike
      heap = new FlatQueue()
      for (let p = 0; p < made; p++)
        around[p]?.forEach(({ length, strength }, q) => {
          if (p < q) connect(p, q, length, strength)
        })
    }
    const value = heap.peekValue()!,
      key = heap.pop()!,
      p = Math.floor(key / most),
      q = key - p * most
    const shared = around[p]?.get(q)
    if (!shared || !around[q] || shared.cost !== value) continue
    const r = made++
    if (r % 1024 === 0) check(0.5 + (0.5 * (r - basins)) / basins)
    parent[p] = parent[q] = r
    mergeCost[r] = Math.max(value, mergeCost[r - 1])
    area[r] = area[p] + area[q]
    for (let c = 0; c < 3; c++)
      colour[r * 3 + c] = (area[p] * colour[p * 3 + c] + area[q] * colour[q * 3 + c]) / area[r]
    stands[r] = (area[p] * stands[p] + area[q] * stands[q]) / area[r]
    around[r] = new Map()
    const next = new Map<number, { length: number; strength: number }>()
    for (const old of [p, q]) {
      for (const [other, { length, strength }] of around[old]!) {
        if (other === p || other === q) continue
        around[other]!.delete(old)
        const known = next.get(other)
        if (known) {
          known.length += length
          known.strength += strength
        } else next.set(other, { length, strength })
      }
      around[old] = null
    }
    for (const [other, { length, strength }] of next) connect(r, other, length, strength)
  }
  return { parent, mergeCost, area, colour }
}

/** For each region the largest below `end` that holds it. */
export function topsOf(parent: Int32Array, end: number): Int32Array {
  const top = new Int32Array(end)
  for (let i = end - 1; i >= 0; i--) top[i] = parent[i] === i || parent[i] >= end ? i : top[parent[i]]
  return top
}
