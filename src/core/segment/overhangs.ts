/**
 * What a cut took too much: parts that stick out of the object into its surroundings, such as a piece of the table it stands on. They go on
 * into the surroundings along more of their rim than they touch the object with, and without them the outline lies better on edges.
 * Ours; that a good object has a strong outline for its size is as in Stahl and Wang, "Edge grouping combining boundary and region
 * information", IEEE Trans. Image Processing 16 (2007).
 */
import { mapInto } from '../raster/mapInto'
import { INSIDE, OUTSIDE } from './gridCut'
import { type LabPlanes } from './labPlanes'
import { learnBoth, type Models } from './learnColours'
import { STRONG } from './outlineStrength'
import { colourDifference, type RegionGraph } from './regionGraph'
import { type RegionTree } from './mergeCost'

/** What several regions share with others: px of boundary, and along it the sums of its strength and of the difference in colour. */
interface Contact {
  length: number
  strength: number
  difference: number
}
const contact = (): Contact => ({ length: 0, strength: 0, difference: 0 })

/** Takes overhangs from a cut, in place. @returns the colours it was made by, learnt anew when something was taken */
export function withoutOverhangs(
  { state, models }: { readonly state: Uint8Array; readonly models: Models },
  graph: RegionGraph,
  tree: RegionTree,
  lab: LabPlanes,
): Models {
  return dropOverhangs(state, graph, tree)
    ? learnBoth(
        lab,
        mapInto(new Float32Array(state.length), state, (side) => (side === INSIDE ? 1 : 0)),
        mapInto(new Float32Array(state.length), state, (side) => (side === INSIDE ? 0 : 1)),
      )
    : models
}

/** Takes overhangs from a cut, in place. @param graph of the state's level @param tree the one the graph was cut from @returns whether there were any */
export function dropOverhangs(state: Uint8Array, graph: RegionGraph, tree: RegionTree): boolean {
  const { count, regionOf, area } = graph,
    pixels = new Float64Array(count)
  state.forEach((side, i) => {
    if (side === INSIDE) pixels[regionOf[i]]++
  })
  const inside = Uint8Array.from(pixels, (n, r) => (2 * n > area[r] ? 1 : 0)),
    dropped = new Uint8Array(count),
    parts = partsOf(graph, tree)
      .map((part) => part.filter((r) => inside[r]))
      .filter((part) => part.length)
  const outline = contact()
  let size = 0
  for (let r = 0; r < count; r++)
    if (inside[r]) {
      size += area[r]
      touch(graph, r, (q) => (inside[q] ? null : outline))
    }
  const mark = new Uint8Array(count)
  for (;;) {
    let best: { part: readonly number[]; value: number; length: number; strength: number; size: number } | undefined
    const value = (length: number, strength: number, size: number) => (strength / length) * Math.sqrt(size),
      now = value(outline.length, outline.strength, size)
    for (const part of parts) {
      if (part.some((r) => dropped[r])) continue
      const its = part.reduce((sum, r) => sum + area[r], 0)
      if (2 * its > size) continue
      const within = contact(),
        without = contact()
      for (const r of part) mark[r] = 1
      for (const r of part) touch(graph, r, (q) => (mark[q] ? null : inside[q] ? within : without))
      const sticksOut = goesOn(graph, part, within, (q) => !mark[q] && !inside[q]) > within.length
      for (const r of part) mark[r] = 0
      if (!sticksOut) continue
      const length = outline.length - without.length + within.length,
        strength = outline.strength - without.strength + within.strength,
        then = value(length, strength, size - its)
      if (then > (best?.value ?? now)) best = { part, value: then, length, strength, size: size - its }
    }
    if (!best) break
    for (const r of best.part) {
      inside[r] = 0
      dropped[r] = 1
    }
    outline.length = best.length
    outline.strength = best.strength
    size = best.size
  }
  if (!dropped.includes(1)) return false
  regionOf.forEach((r, i) => {
    if (dropped[r]) state[i] = OUTSIDE
  })
  return true
}

/** Along how much of its rim (px) a part goes on into the surroundings: where neither boundary nor colour parts it from them more than, on average, from the object. */
function goesOn(
  graph: RegionGraph,
  part: readonly number[],
  within: Contact,
  isOutside: (region: number) => boolean,
): number {
  if (within.length === 0) return 0 // a thing by itself
  const strength = within.strength / within.length,
    difference = within.difference / within.length
  let length = 0
  for (const r of part)
    graph.neighbours[r].forEach((q, k) => {
      if (isOutside(q) && graph.borders[r][k].strength <= strength && colourDifference(graph, r, q) <= difference)
        length += graph.borders[r][k].length
    })
  return length
}

/** Adds each boundary of a region to what `to` says of the neighbour. */
function touch(graph: RegionGraph, r: number, to: (neighbour: number) => Contact | null): void {
  graph.neighbours[r].forEach((q, k) => {
    const sum = to(q),
      { length, strength } = graph.borders[r][k]
    if (sum) {
      sum.length += length
      sum.strength += length * Math.min(STRONG, strength)
      sum.difference += length * colourDifference(graph, r, q)
    }
  })
}

/** Each region, and each group of regions that the tree merges. */
function partsOf({ count, inTree }: RegionGraph, { parent }: RegionTree): number[][] {
  const groups = new Map<number, number[]>()
  for (let r = 0; r < count; r++)
    for (let i = inTree[r]; ; i = parent[i]) {
      const group = groups.get(i)
      if (group) group.push(r)
      else groups.set(i, [r])
      if (parent[i] === i) break
    }
  return [...groups.values()]
}
