/**
 * Where a random walk over regions ends first: at what is kept or at what is dropped. It crosses boundaries the more easily the longer
 * and weaker they are.
 * Source: Grady, "Random walks for image segmentation", IEEE PAMI 28 (2006), here on regions; solved by Gauss-Seidel sweeps.
 */
import { colourDifference, type RegionGraph } from './regionGraph'

/** A boundary of this strength (CIELAB units, difference of the means and gradient) is crossed e times less often than none. */
const STRENGTH = 4
/** A thing has light and shade: L* counts less than the hue. */
const LIGHTNESS = 0.65
const SWEEPS = 400,
  SETTLED = 3e-4

/** Of each region from first[r] on: its neighbours, and how easily the walk goes there. */
interface Links {
  readonly first: Int32Array
  readonly to: Int32Array
  readonly weight: Float64Array
}
const known = new WeakMap<RegionGraph, Links>()
/** Remembered with the graph. */
function linksOf(graph: RegionGraph): Links {
  let links = known.get(graph)
  if (!links) {
    const first = new Int32Array(graph.count + 1)
    graph.neighbours.forEach((around, r) => {
      first[r + 1] = first[r] + around.length
    })
    const weight = Float64Array.from(
      graph.neighbours.flatMap((around, r) =>
        around.map(
          (q, k) =>
            graph.borders[r][k].length *
            Math.exp(
              -Math.max(0, colourDifference(graph, r, q, LIGHTNESS) - 1) / STRENGTH -
                graph.borders[r][k].strength / STRENGTH,
            ),
        ),
      ),
    )
    known.set(graph, (links = { first, to: Int32Array.from(graph.neighbours.flat()), weight }))
  }
  return links
}

/** @param kept for each region 1 (kept), 0 (dropped) or NaN @param pull for each region how strongly the picture's border drops it, in px of boundary @returns the probability of ending at what is kept, 0-1 */
export function randomWalk(graph: RegionGraph, kept: Float32Array, pull: Float32Array): Float32Array {
  const { count } = graph
  const { first, to, weight } = linksOf(graph)
  const out = Float32Array.from(kept, (k) => (k === k ? k : 0.5))
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let change = 0
    for (let n = 0; n < count; n++) {
      const r = sweep & 1 ? count - 1 - n : n
      if (kept[r] === kept[r]) continue
      let sum = 1e-9,
        value = 0.5e-9
      for (let k = first[r]; k < first[r + 1]; k++) {
        sum += weight[k]
        value += weight[k] * out[to[k]]
      }
      sum += pull[r]
      const next = value / sum
      change = Math.max(change, Math.abs(next - out[r]))
      out[r] = next
    }
    if (change < SETTLED) break
  }
  return out
}
