/** A few hundred regions of the picture with what they look like and who lies beside whom: what is thought about before pixels are. */
import FlatQueue from 'flatqueue'
import { type LabPlanes } from './labPlanes'
import { cutTree } from './regionTree'
import { type RegionTree } from './mergeCost'

export interface RegionGraph {
  /** The region of each pixel of the level that is thought on. */
  readonly regionOf: Int32Array
  readonly count: number
  /** Pixels. */
  readonly area: Float32Array
  /** Mean L*, a*, b*, three a region. */
  readonly colour: Float32Array
  /** Middle, px: x, y, two a region. */
  readonly middle: Float32Array
  readonly neighbours: readonly (readonly number[])[]
  /** Beside each neighbour: the common boundary's length, px of the tree's level, and mean strength, CIELAB units. */
  readonly borders: readonly (readonly { readonly length: number; readonly strength: number }[])[]
  /** Its name in the tree. */
  readonly inTree: Int32Array
}

/** @param tree made of the picture that `lab` is of @param count how many regions the tree is cut into */
export function regionGraph(tree: RegionTree, lab: LabPlanes, count: number): RegionGraph {
  const top = cutTree(tree, count),
    names = new Map<number, number>()
  const name = (basin: number): number => {
    const region = top[basin],
      known = names.get(region)
    if (known !== undefined) return known
    names.set(region, names.size)
    return names.size - 1
  }
  const { width } = lab,
    nameOf = new Int32Array(tree.basins).fill(-1),
    regionOf = tree.basinOf.map((basin) => (nameOf[basin] < 0 ? (nameOf[basin] = name(basin)) : nameOf[basin]))
  const around: Map<number, { length: number; strength: number }>[] = []
  const meet = (p: number, q: number, length: number, strength: number) => {
    const known = (around[p] ??= new Map()).get(q)
    if (known) {
      known.strength = (known.strength * known.length + strength * length) / (known.length + length)
      known.length += length
    } else around[p].set(q, { length, strength })
  }
  for (let k = 0; k < tree.lengths.length; k++) {
    const p = name(tree.pairs[2 * k]),
      q = name(tree.pairs[2 * k + 1])
    if (p !== q) {
      meet(p, q, tree.lengths[k], tree.strengths[k])
      meet(q, p, tree.lengths[k], tree.strengths[k])
    }
  }
  const regions = names.size,
    area = new Float32Array(regions),
    sums = new Float64Array(regions * 3),
    places = new Float64Array(regions * 2)
  for (let i = 0; i < regionOf.length; i++) {
    const r = regionOf[i]
    area[r]++
    sums[r * 3] += lab.L[i]
    sums[r * 3 + 1] += lab.a[i]
    sums[r * 3 + 2] += lab.b[i]
    places[r * 2] += i % width
    places[r * 2 + 1] += (i / width) | 0
  }
  return {
    regionOf,
    count: regions,
    area,
    colour: Float32Array.from(sums, (v, i) => v / Math.max(1, area[(i / 3) | 0])),
    middle: Float32Array.from(places, (v, i) => v / Math.max(1, area[i >> 1])),
    neighbours: Array.from({ length: regions }, (_, r) => [...(around[r]?.keys() ?? [])]),
    borders: Array.from({ length: regions }, (_, r) => [...(around[r]?.values() ?? [])]),
    inTree: Int32Array.from(names.keys()),
  }
}

/** CIELAB units. @param lightness how much L* counts beside the hue: less than 1 where light and shade are not to part a thing */
export function colourDifference({ colour }: RegionGraph, p: number, q: number, lightness = 1): number {
  const dl = lightness * (colour[p * 3] - colour[q * 3]),
    da = colour[p * 3 + 1] - colour[q * 3 + 1],
    db = colour[p * 3 + 2] - colour[q * 3 + 2]
  return Math.sqrt(dl * dl + da * da + db * db)
}

/** Between the middles of two regions, px. */
export const apart = ({ middle }: RegionGraph, p: number, q: number): number =>
  Math.hypot(middle[p * 2] - middle[q * 2], middle[p * 2 + 1] - middle[q * 2 + 1])

/**
 * Geodesic distance: the least sum of colour differences on the way from the regions that have a finite `start`, beginning with it.
 * Differences up to `flat` do not count: they are shading. Dijkstra's algorithm.
 */
export function geodesicDistance(graph: RegionGraph, start: Float32Array, flat: number): Float32Array {
  return distances(graph, flat)(start)
}

/** The same for many starts: what each way costs is worked out once. What lies farther than `farthest` need not be told: it may be infinite. */
export function distances(
  graph: RegionGraph,
  flat: number,
  farthest = Infinity,
): (start: Float32Array) => Float32Array {
  const { count, neighbours } = graph,
    first = new Int32Array(count + 1)
  neighbours.forEach((around, r) => {
    first[r + 1] = first[r] + around.length
  })
  const to = Int32Array.from(neighbours.flat()),
    cost = new Float64Array(to.length)
  for (let r = 0; r < count; r++)
    for (let k = first[r]; k < first[r + 1]; k++) cost[k] = Math.max(0, colourDifference(graph, r, to[k]) - flat)
  return (start) => {
    const distance = start.slice(),
      waiting = new FlatQueue<number>()
    distance.forEach((from, r) => {
      if (from < Infinity) waiting.push(r, from)
    })
    while (waiting.length) {
      const reached = waiting.peekValue()!,
        r = waiting.pop()!
      if (reached > farthest) break
      if (reached > distance[r]) continue
      for (let k = first[r]; k < first[r + 1]; k++) {
        const through = Math.fround(reached + cost[k]),
          q = to[k]
        if (through < distance[q]) waiting.push(q, (distance[q] = through))
      }
    }
    return distance
  }
}

/**
 * For each region, how far its colour is from what regions of weight look like: the difference within which `share` of the whole
 * weight lies. Infinite where there is no weight. CIELAB units.
 */
export function unlikeness(graph: RegionGraph, weight: Float32Array, share: number): Float32Array {
  const weighed = [...weight.keys()].filter((r) => weight[r] > 0),
    need = share * weighed.reduce((sum, r) => sum + weight[r], 0)
  return Float32Array.from({ length: graph.count }, (_, r) => {
    const near = weighed
      .map((q) => ({ difference: colourDifference(graph, r, q), weight: weight[q] }))
      .sort((p, q) => p.difference - q.difference)
    let sum = 0
    for (const { difference, weight: w } of near) if ((sum += w) >= need) return difference
    return Infinity
  })
}
