/**
 * What stands out against what touches the border: how much a region's surroundings touch the picture's border tells how probably it is
 * background, and what contrasts with background nearby stands out.
 * Source: Zhu, Liang, Wei and Sun, "Saliency optimization from robust background detection", CVPR 2014 (boundary connectivity, equations 2-5,
 * and background-weighted contrast, equation 6).
 */
import { type Size } from '../raster/picture'
import { apart, colourDifference, distances, type RegionGraph } from './regionGraph'

/** Two regions hang together as far as the way between them costs about this much, CIELAB units. */
const TOGETHER = 8
/** From so many times that on they do not: less than a ten-thousandth is left. */
const APART = 4.5
/** Boundary connectivity from which on a region is probably background. */
const CONNECTED = 1
/** Contrast counts within about this share of the picture's diagonal. */
const NEARBY = 0.25

export interface Saliency {
  /** For each region, 0-1. */ readonly background: Float32Array
  /** For each region, 0-1: 1 for what stands out most. */ readonly contrast: Float32Array
}

/** How much of the picture's border each region touches, px. */
export function borderLength(graph: RegionGraph, { width, height }: Size): Float32Array {
  const length = new Float32Array(graph.count)
  for (let x = 0; x < width; x++) {
    length[graph.regionOf[x]]++
    length[graph.regionOf[(height - 1) * width + x]]++
  }
  for (let y = 0; y < height; y++) {
    length[graph.regionOf[y * width]]++
    length[graph.regionOf[y * width + width - 1]]++
  }
  return length
}

export function saliency(graph: RegionGraph, size: Size, flat: number): Saliency {
  const { count, area } = graph,
    border = borderLength(graph, size),
    background = new Float32Array(count),
    contrast = new Float32Array(count),
    distancesFrom = distances(graph, flat, APART * TOGETHER)
  for (let r = 0; r < count; r++) {
    const distance = distancesFrom(new Float32Array(count).fill(Infinity).fill(0, r, r + 1))
    let span = 0,
      length = 0
    for (let q = 0; q < count; q++)
      if (distance[q] <= APART * TOGETHER) {
        const together = Math.exp(-(distance[q] ** 2) / (2 * TOGETHER ** 2))
        span += together * area[q]
        length += together * border[q]
      }
    background[r] = 1 - Math.exp(-((length / Math.sqrt(span)) ** 2) / (2 * CONNECTED ** 2))
  }
  const reach = NEARBY * Math.hypot(size.width, size.height)
  for (let r = 0; r < count; r++) {
    let sum = 0,
      weight = 1e-9
    for (let q = 0; q < count; q++) {
      const w = area[q] * Math.exp(-(apart(graph, r, q) ** 2) / (2 * reach ** 2)) * background[q]
      sum += w * colourDifference(graph, r, q)
      weight += w
    }
    contrast[r] = sum / weight
  }
  const most = contrast.reduce((a, b) => Math.max(a, b), 1e-6)
  return { background, contrast: contrast.map((c) => c / most) }
}
