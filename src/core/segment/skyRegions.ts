/**
 * How probably each region of a picture is sky, by what it looks like, where it lies and what the network makes of it: a logistic regression (Berkson 1944;
 * fitted by training/sky/run, each photograph left out in turn). That sky is smooth, light, blue or white, and on top is common practice in sky detection,
 * e.g. Zafarifar and de With, "Blue sky detection for picture quality enhancement", ACIVS 2006.
 */
import { type Size } from '../raster/picture'
import { geodesicDistance, type RegionGraph } from './regionGraph'
import { SUREST } from './expectation'
import { FLAT } from './guess'
import { type SkySeen } from './skySeen'

/** Added to a gradient before its logarithm is taken, CIELAB units a pixel. */
const STILL = 0.05

/** Names of what is looked at, in the order of the weights. */
export const SKY_FEATURES = [
  'lightness', // L*
  'redness', // a*, where positive
  'liveliness', // logarithm of the mean gradient
  'lowest row', // share of the picture's height
  'rank of lightness', // share of the picture that is darker
  'light blue', // L* times −b* where that is positive, a hundredth
  'warm for its rank', // rank times b* where that is positive
  'nearer to the top', // logarithms: farther along the picture from the bottom row than from the top row, geodesic distances
  'on the bottom row', // share of the picture's width
  'seen as sky', // by the network: the mean of the logarithm of the odds, nats; without it 0
  'seen as water', // the same
] as const

/** So many of them come from the network. */
export const FROM_NETWORK = 2

/**
 * One row of values a region.
 * @param gradient of the picture the regions are of, CIELAB units a pixel
 * @param seen by the network; null without it
 */
export function skyFeatures(
  graph: RegionGraph,
  gradient: Float32Array,
  { width, height }: Size,
  seen: SkySeen | null,
): Float32Array[] {
  const { count, area, colour, regionOf } = graph,
    steep = new Float32Array(count),
    asSky = new Float32Array(count),
    asWater = new Float32Array(count),
    lowest = new Float32Array(count),
    top = new Float32Array(count),
    bottom = new Float32Array(count)
  for (let i = 0, y = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const r = regionOf[i]
      steep[r] += gradient[i]
      if (seen) {
        asSky[r] += atMost(seen.sky[i])
        asWater[r] += atMost(seen.water[i])
      }
      lowest[r] = y / height
      if (y === 0) top[r]++
      if (y === height - 1) bottom[r]++
    }
  const from = (row: Float32Array) =>
      geodesicDistance(
        graph,
        row.map((pixels) => (pixels ? 0 : Infinity)),
        FLAT,
      ),
    fromTop = from(top),
    fromBottom = from(bottom),
    rank = new Float32Array(count)
  const byLightness = Array.from({ length: count }, (_, r) => r).sort((p, q) => colour[3 * p] - colour[3 * q])
  let darker = 0
  for (const r of byLightness) {
    rank[r] = (darker + area[r] / 2) / regionOf.length
    darker += area[r]
  }
  return Array.from({ length: count }, (_, r) => {
    const [L, a, b] = colour.subarray(3 * r, 3 * r + 3)
    return Float32Array.of(
      L,
      Math.max(0, a),
      Math.log(steep[r] / area[r] + STILL),
      lowest[r],
      rank[r],
      (L * Math.max(0, -b)) / 100,
      rank[r] * Math.max(0, b),
      Math.log1p(fromBottom[r]) - Math.log1p(fromTop[r]),
      bottom[r] / width,
      asSky[r] / area[r],
      asWater[r] / area[r],
    )
  })
}

const atMost = (nats: number): number => Math.max(-SUREST, Math.min(SUREST, nats))

/** Printed by training/sky/run; without the network, as it was fitted to the photographs with points and places alone. */
const WITHOUT = {
    bias: -7.657,
    weights: [0.0544, 0.1035, -1.5735, 0.7121, 4.924, 0.3181, -0.132, 1.096, -3.8219],
  },
  WITH = {
    bias: -3.94,
    weights: [0.027, 0.0519, -0.7115, -0.6351, 3.3192, 0.1759, -0.0716, 0.7598, -1.7951, 0.5107, 0.0896],
  }

/** 0-1 a region. */
export function skyProbability(
  graph: RegionGraph,
  gradient: Float32Array,
  size: Size,
  seen: SkySeen | null,
): Float32Array {
  const { bias, weights } = seen ? WITH : WITHOUT
  return Float32Array.from(
    skyFeatures(graph, gradient, size, seen),
    (values) => 1 / (1 + Math.exp(-weights.reduce((sum, w, k) => sum + w * values[k], bias))),
  )
}
