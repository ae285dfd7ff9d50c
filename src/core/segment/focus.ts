/**
 * What is out of focus: where the lens drew no edge sharply. How blurred an edge is follows from how much a blur of known width takes off
 * its gradient; a region is in focus as far as its edges are.
 * Source: Zhuo and Sim, "Defocus map estimation from a single image", Pattern Recognition 44 (2011), equations 4-6 (the ratio of gradients).
 */
import { type Picture, type Size } from '../raster/picture'
import { boxMean } from './labPlanes'
import { type RegionGraph } from './regionGraph'
import { gradientOf } from './basins'

/** The blur that is added, px (sigma): three means of 3×3, each of variance 2/3. */
const ADDED = Math.SQRT2
/** Edges of less than this are grain, levels of luma a pixel. */
const LEAST = 5
/** Edges up to this blur (sigma, px) are sharp; from the second on they are not. */
const SHARP = 1,
  BLURRED = 2
/** Unless at least this share of the edges is sharp, and as much is not, the whole picture is as sharp as the lens made it, and says nothing. */
const EITHER = 0.15
/** A region is out of focus when a smaller share of its edges is sharp. */
const HALF = 0.5

/** For each region, 0-1: how far its edges are in focus; null where the picture does not tell. @param finer the level with twice the px of the graph's each way */
function focusOf({ regionOf, count }: RegionGraph, { width: across }: Size, finer: Picture): Float32Array | null {
  const { width, height } = finer,
    luma = lumaOf(finer),
    fine = gradientOf(finer, [luma]),
    coarse = gradientOf(finer, [[0, 1, 2].reduce((plane) => boxMean(plane, finer), luma)]),
    sharp = new Float32Array(count),
    all = new Float32Array(count)
  let sharpEdges = 0,
    edges = 0
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x,
        g = fine[i]
      // Edges lie where the gradient has a crest, along one of the axes at least.
      if (g < LEAST || !((g >= fine[i - 1] && g >= fine[i + 1]) || (g >= fine[i - width] && g >= fine[i + width])))
        continue
      const ratio = g / Math.max(1e-6, coarse[i]),
        sigma = ratio > 1 ? ADDED / Math.sqrt(ratio * ratio - 1) : Infinity,
        share = g * Math.max(0, Math.min(1, (BLURRED - sigma) / (BLURRED - SHARP)))
      edges += g
      sharpEdges += share
      // An edge belongs to the regions on either side of it.
      const k = (y >> 1) * across + (x >> 1),
        r = regionOf[k]
      all[r] += g
      sharp[r] += share
      for (const j of [k - 1, k + 1, k - across, k + across]) {
        const q = regionOf[j]
        if (q !== r) {
          all[q] += g / 2
          sharp[q] += share / 2
        }
      }
    }
  if (sharpEdges < EITHER * edges || sharpEdges > (1 - EITHER) * edges) return null
  return sharp.map((s, r) => (all[r] > 0 ? s / all[r] : 1))
}

function lumaOf({ width, height, data }: Picture): Float32Array {
  const luma = new Float32Array(width * height)
  for (let i = 0; i < luma.length; i++)
    luma[i] = 0.2126 * data[4 * i] + 0.7152 * data[4 * i + 1] + 0.0722 * data[4 * i + 2]
  return luma
}

/**
 * 1 for regions that are out of focus and hang together, through others that are, with one of those given: smooth shading within a thing is not
 * sharp either, but is enclosed by what is. Null where the picture does not tell. @param levels the graph's last, full size first @param from 1 for the regions to begin with
 */
export function outOfFocus(graph: RegionGraph, levels: readonly Picture[], from: ArrayLike<number>): Uint8Array | null {
  const focus = levels.length > 1 ? focusOf(graph, levels.at(-1)!, levels.at(-2)!) : null
  if (!focus) return null
  const out = new Uint8Array(graph.count),
    stack: number[] = []
  const take = (r: number) => {
    if (!out[r] && focus[r] < HALF) {
      out[r] = 1
      stack.push(r)
    }
  }
  for (let r = 0; r < graph.count; r++) if (from[r]) take(r)
  while (stack.length) graph.neighbours[stack.pop()!].forEach(take)
  return out
}
