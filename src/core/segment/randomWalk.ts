/**
 * Where a random walk over regions ends first: at what is kept or at what is dropped. It crosses boundaries the more easily the longer
 * and weaker they are.
 * Source: Grady, "Random walks for image segmentation", IEEE PAMI 28 (2006), here on regions; solved by Gauss-Seidel sweeps.
 */
import { colourDifference, type RegionGraph } from './regionGraph'

/** A boundary of this strength (CIELAB units, difference of the means and gradient) is crossed e times less often than none. */
const STRENGTH = 4
const SWEEPS = 400, SETTLED = 1e-4

interface Links { readonly to: readonly number[]; readonly weight: readonly number[] }
const known = new WeakMap<RegionGraph, readonly Links[]>()
/** How easily the walk goes from each region to each of its neighbours; remembered with the graph. */
function linksOf(graph: RegionGraph): readonly Links[] {
  let links = known.get(graph)
  if (!links) known.set(graph, (links = graph.neighbours.map((around, r) => ({ to: around, weight: around.map((q, k) => graph.borders[r][k].length * Math.exp(-Math.max(0, colourDifference(graph, r, q) - 1) / STRENGTH - graph.borders[r][k].strength / STRENGTH)) }))))
  return links
}

/** @param kept for each region 1 (kept), 0 (dropped) or NaN @param pull for each region how strongly the picture's border drops it, in px of boundary @returns the probability of ending at what is kept, 0-1 */
export function randomWalk(graph: RegionGraph, kept: Float32Array, pull: Float32Array): Float32Array {
  const { count } = graph
  const links = linksOf(graph)
  const out = Float32Array.from(kept, (k) => (k === k ? k : 0.5))
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let change = 0
    for (let n = 0; n < count; n++) {
      const r = sweep & 1 ? count - 1 - n : n
      if (kept[r] === kept[r]) continue
      const { to, weight } = links[r]
      let sum = 1e-9, value = 0.5e-9
      for (let k = 0; k < to.length; k++) { sum += weight[k]; value += weight[k] * out[to[k]] }
      sum += pull[r]
      const next = value / sum
      change = Math.max(change, Math.abs(next - out[r]))
      out[r] = next
    }
    if (change < SETTLED) break
  }
  return out
}
