/**
 * First guesses at an object, from regions: what is far from the surroundings. Far by reach (geodesic distance: shading does not count,
 * looking like the surroundings is as good as being reached from them), or by the tree (what it costs to merge it into the surroundings).
 * Sources: Wei, Wen, Zhu and Sun, "Geodesic saliency using background priors", ECCV 2012; Arbeláez, Maire, Fowlkes and Malik, IEEE PAMI 33
 * (2011) (the cost of the merge as a measure of separation); Otsu, IEEE Trans. Systems, Man, and Cybernetics 9 (1979) (the value that parts two heaps).
 */
import { mapInto } from '../raster/mapInto'
import { INSIDE, UNDECIDED } from './gridCut'
import { geodesicDistance, type RegionGraph, unlikeness } from './regionGraph'
import { type RegionTree } from './mergeCost'

/** Colour differences up to this are shading, CIELAB units. */
export const FLAT = 2
/** A region looks like the surroundings as far as this share of them does. */
const SHARE = 0.004
/** What looking like them costs before the difference counts, CIELAB units. */
const JUMP = 1
/** A first guess that nowhere stands out by so many CIELAB units is no object. */
const LEAST_DISTANCE = 4
/** A region of the tree lies outside when more than this share of it does. */
const MERGED = 0.2

/** How probably each pixel is the object, by how far its region is from the surroundings; null where nothing stands out. Looking like the surroundings is as good as being reached from them. */
export function guessByReach(graph: RegionGraph, outer: Float32Array, given: Uint8Array): Float32Array | null {
  const surroundings = outer.map((share, r) => (share > 0.5 ? graph.area[r] : 0)),
    like = unlikeness(graph, surroundings, SHARE)
  const start = outer.map((share, r) => (share > 0.5 ? 0 : JUMP + Math.max(0, like[r] - FLAT)))
  const distance = geodesicDistance(graph, start, FLAT)
  if (!distance.some((d, r) => outer[r] < 1 && d >= LEAST_DISTANCE && Number.isFinite(d))) return null
  return guessOf(distance, Math.max(5, middleOf(distance, graph, outer)), graph, given)
}

/** Half of what is undecided lies nearer than this: boxes are sloppy, objects fill about half of theirs. */
function middleOf(distance: Float32Array, graph: RegionGraph, outer: Float32Array): number {
  const order = [...distance.keys()]
      .filter((r) => outer[r] < 1 && Number.isFinite(distance[r]))
      .sort((p, q) => distance[p] - distance[q]),
    undecided = (r: number) => graph.area[r] * (1 - outer[r])
  const total = order.reduce((sum, r) => sum + undecided(r), 0)
  let sum = 0
  for (const r of order) if ((sum += undecided(r)) >= total / 2) return distance[r]
  return 0
}
function guessOf(distance: Float32Array, middle: number, graph: RegionGraph, given: Uint8Array): Float32Array {
  const guess = distance.map((d) => 1 - Math.exp(-((d / middle) ** 2)))
  return mapInto(new Float32Array(given.length), given, (g, i) =>
    g === UNDECIDED ? guess[graph.regionOf[i]] : g === INSIDE ? 1 : 0,
  )
}

/**
 * The same by the tree: how much it costs to merge a region, and what it merges with, into something that lies outside for the greater part.
 * @param parted even odds are not where half of what is undecided lies, but at the value that parts the regions best
 */
export function guessByTree(
  tree: RegionTree,
  graph: RegionGraph,
  outer: Float32Array,
  given: Uint8Array,
  parted = false,
): Float32Array | null {
  const outside = new Float32Array(tree.parent.length),
    area = new Float32Array(tree.parent.length)
  for (let r = 0; r < graph.count; r++) {
    outside[graph.inTree[r]] = outer[r] * graph.area[r]
    area[graph.inTree[r]] = graph.area[r]
  }
  for (let i = 0; i < tree.parent.length; i++)
    if (tree.parent[i] !== i) {
      outside[tree.parent[i]] += outside[i]
      area[tree.parent[i]] += area[i]
    }
  const height = Float32Array.from({ length: graph.count }, (_, r) => {
    let i = graph.inTree[r]
    if (outside[i] > 0.5 * area[i]) return 0
    while (tree.parent[i] !== i && outside[tree.parent[i]] <= MERGED * area[tree.parent[i]]) i = tree.parent[i]
    return tree.mergeCost[tree.parent[i]]
  })
  const middle = parted ? partingValue(height, graph.area) : middleOf(height, graph, outer)
  return middle > 0 ? guessOf(height, middle, graph, given) : null
}

/** The value that parts weighted values best into low and high ones (Otsu); 0 when none is above zero. */
export function partingValue(values: Float32Array, weights: Float32Array): number {
  const most = values.reduce((a, b) => Math.max(a, b), 0),
    bins = new Float64Array(64)
  if (most < 1e-6) return 0
  values.forEach((value, r) => {
    bins[Math.min(63, Math.floor((64 * value) / most))] += weights[r]
  })
  let total = 0,
    mass = 0
  bins.forEach((n, k) => {
    total += n
    mass += n * k
  })
  let below = 0,
    belowMass = 0,
    best = -1,
    at = 32
  for (let k = 0; k < 63; k++) {
    below += bins[k]
    belowMass += bins[k] * k
    if (below === 0 || below === total) continue
    const between = below * (total - below) * (belowMass / below - (mass - belowMass) / (total - below)) ** 2
    if (between > best) {
      best = between
      at = k + 1
    }
  }
  return (at / 64) * most
}
