/**
 * The picture's own hierarchy of regions: basins of the gradient, merged two by two into a tree, the least different first. How
 * different two neighbours are is told by their mean colours and the strength of the boundary between them, and small regions go first.
 * Sources: Meyer, "Topographic distance and watershed lines", Signal Processing 38 (1994) (flooding by an ordered queue); Ward,
 * "Hierarchical grouping to optimize an objective function", J. Am. Statistical Association 58 (1963) (what a merge costs);
 * Arbeláez, Maire, Fowlkes and Malik, "Contour detection and hierarchical image segmentation", IEEE PAMI 33 (2011) (boundary strength between regions).
 * That a thing's parts go together before they go with what lies around it, however unlike they look, is ours: see `STANDING`.
 */
import FlatQueue from 'flatqueue'
import { mapInto } from '../raster/mapInto'
import { type Size } from '../raster/picture'
import { type LabPlanes } from './labPlanes'

export interface RegionTree {
  readonly width: number
  readonly height: number
  /** The basin of each pixel, 0 … basins − 1. */
  readonly basinOf: Int32Array
  readonly basins: number
  /** parent[i] of basins (0 … basins − 1) and of merged regions (from `basins` on, in the order they were merged); the last is the root, its own parent. */
  readonly parent: Int32Array
  /** What the merge that made a region cost, never falling; 0 for basins. */
  readonly mergeCost: Float32Array
  /** What each region looks like: its pixels, and their mean L*, a*, b*. */
  readonly area: Float32Array
  readonly colour: Float32Array
  /** Neighbouring basins: pairs, the length of their common boundary and its mean strength. */
  readonly pairs: Int32Array
  readonly lengths: Float32Array
  readonly strengths: Float32Array
}

/** Gradients are put into so many classes of a quarter of a CIELAB unit; above that all are alike. */
const CLASSES = 256,
  CLASS = 0.25
/** What a merge costs. */
export interface MergeCost {
  /** Regions on either side of something thin are neighbours too: sky between bars is sky. */
  readonly acrossThin?: true
  /** How much the boundary's strength counts beside the difference of the mean colours. */
  readonly boundary: number
  /** Size counts by this power of the harmonic mean of the areas. */
  readonly size: number
}
/** For cuts: small regions of one colour. */
export const BY_COLOUR: MergeCost = { boundary: 1, size: 0.35 }
/** For people: things with an outline. */
export const BY_OUTLINE: MergeCost = { acrossThin: true, boundary: 6, size: 0.5 }

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

export interface TreeOptions {
  readonly mergeCost?: MergeCost
  /** Of the same colours, where it is known. */
  readonly gradient?: Float32Array
  /** How far each pixel belongs to what stands out in the picture, 0-1, where that is known. */
  readonly standsOut?: ArrayLike<number>
  readonly check?: (progress: number) => void
}

export function makeRegionTree(
  lab: LabPlanes,
  { mergeCost = BY_COLOUR, gradient = colourGradient(lab), standsOut, check = () => {} }: TreeOptions = {},
): RegionTree {
  const { width, height } = lab
  check(0.1)
  const { basinOf, basins } = floodBasins(gradient, width, height)
  check(0.4)
  const graph = neighbours(basinOf, basins, lab, gradient)
  check(0.5)
  return {
    width,
    height,
    basinOf,
    basins,
    ...graph.table,
    ...merge(
      graph,
      basins,
      mergeCost,
      {
        ...(mergeCost.acrossThin && {
          across: (regionOf: Int32Array, colour: Float32Array) =>
            acrossThin(basinOf, { width, height }, regionOf, colour),
        }),
        ...(standsOut && { standing: meanOf(standsOut, basinOf, graph.area) }),
      },
      check,
    ),
  }
}

/** The mean of each basin. */
function meanOf(values: ArrayLike<number>, basinOf: Int32Array, area: Float64Array): Float32Array {
  const sums = new Float64Array(area.length)
  basinOf.forEach((basin, i) => {
    sums[basin] += values[i]
  })
  return Float32Array.from(sums, (sum, basin) => sum / area[basin])
}

/** Length of the colour gradient, CIELAB units a pixel. */
export const colourGradient = (lab: LabPlanes): Float32Array => gradientOf(lab, [lab.L, lab.a, lab.b])

/** Length of the gradient of all planes by Scharr's filter, in their units a pixel; beyond the border lies the outermost pixel again. */
export function gradientOf({ width, height }: Size, planes: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(width * height)
  for (const p of planes)
    for (let y = 0; y < height; y++) {
      const up = (y > 0 ? y - 1 : 0) * width,
        here = y * width,
        down = (y < height - 1 ? y + 1 : y) * width
      // Three columns at a time: the one before, this one, the next.
      let nw = p[up],
        w = p[here],
        sw = p[down],
        n = nw,
        c = w,
        s = sw
      for (let x = 0; x < width; x++) {
        const r = x < width - 1 ? x + 1 : x,
          ne = p[up + r],
          e = p[here + r],
          se = p[down + r]
        const gx = 3 * (ne - nw + se - sw) + 10 * (e - w),
          gy = 3 * (sw - nw + se - ne) + 10 * (s - n)
        out[here + x] += gx * gx + gy * gy
        nw = n
        w = c
        sw = s
        n = ne
        c = e
        s = se
      }
    }
  for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(out[i]) / 32
  return out
}

/** Watershed basins of the gradient's minima, every pixel in one. */
function floodBasins(gradient: Float32Array, width: number, height: number): { basinOf: Int32Array; basins: number } {
  const count = width * height,
    basinOf = new Int32Array(count).fill(-1)
  const classOf = mapInto(new Uint8Array(count), gradient, (g) => Math.min(CLASSES - 1, g / CLASS))
  const next = new Int32Array(count),
    first = new Int32Array(CLASSES).fill(-1),
    last = new Int32Array(CLASSES).fill(-1)
  const put = (i: number, c: number) => {
    next[i] = -1
    if (first[c] < 0) first[c] = i
    else next[last[c]] = i
    last[c] = i
  }
  // Minima: plateaus with nothing lower around them.
  let basins = 0
  const seen = new Uint8Array(count),
    plateau = new Int32Array(count)
  for (let start = 0; start < count; start++) {
    if (seen[start]) continue
    const level = classOf[start]
    let size = 0,
      least = true
    plateau[size++] = start
    seen[start] = 1
    for (let k = 0; k < size; k++) {
      const i = plateau[k],
        x = i % width
      const look = (j: number) => {
        if (classOf[j] < level) least = false
        else if (classOf[j] === level && !seen[j]) {
          seen[j] = 1
          plateau[size++] = j
        }
      }
      if (x > 0) look(i - 1)
      if (x < width - 1) look(i + 1)
      if (i >= width) look(i - width)
      if (i + width < count) look(i + width)
    }
    if (!least) continue
    for (let k = 0; k < size; k++) {
      basinOf[plateau[k]] = basins
      put(plateau[k], level)
    }
    basins++
  }
  for (let level = 0; level < CLASSES; level++) {
    while (first[level] >= 0) {
      const i = first[level],
        x = i % width
      first[level] = next[i]
      const reach = (j: number) => {
        if (basinOf[j] < 0) {
          basinOf[j] = basinOf[i]
          put(j, Math.max(level, classOf[j]))
        }
      }
      if (x > 0) reach(i - 1)
      if (x < width - 1) reach(i + 1)
      if (i >= width) reach(i - width)
      if (i + width < count) reach(i + width)
    }
  }
  return { basinOf, basins }
}

interface Links {
  readonly pairs: readonly number[]
  readonly lengths: readonly number[]
}

/** Regions that lie on either side of something thin, along rows and columns. @param regionOf of each basin @param colour of each region */
function acrossThin(basinOf: Int32Array, { width, height }: Size, regionOf: Int32Array, colour: Float32Array): Links {
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

function neighbours(
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

function merge(
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
function topsOf(parent: Int32Array, end: number): Int32Array {
  const top = new Int32Array(end)
  for (let i = end - 1; i >= 0; i--) top[i] = parent[i] === i || parent[i] >= end ? i : top[parent[i]]
  return top
}

/** For each basin the region that holds it when the tree is cut so that `count` regions are left. */
export function cutTree({ parent, basins }: RegionTree, count: number): Int32Array {
  const roots = 2 * basins - Math.max(1, Math.min(basins, Math.round(count))) // regions below this number exist by then
  return topsOf(parent, roots).subarray(0, basins)
}

/** For each basin the largest region that holds it and has at most so many pixels; the basin itself where it has more. */
export function cutTreeByArea({ parent, basins, area }: RegionTree, most: number): Int32Array {
  const top = new Int32Array(parent.length)
  for (let i = parent.length - 1; i >= 0; i--) top[i] = parent[i] === i || area[parent[i]] > most ? i : top[parent[i]]
  return top.subarray(0, basins)
}
