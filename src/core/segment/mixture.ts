/**
 * A mixture of Gaussians in a space of three values: how probable a colour is among samples.
 * Sources: Orchard and Bouman, "Color quantization of images", IEEE Trans. Signal Processing 39 (1991) (splitting along the widest
 * direction); the refinement is hard expectation-maximisation as in Rother, Kolmogorov and Blake, "GrabCut", SIGGRAPH 2004, section 3.
 */

/** Each component is ten numbers, one after the other: logarithm of weight and normalisation; mean x, y, z; inverse covariance xx, xy, xz, yy, yz, zz. */
export interface Mixture { readonly components: Float64Array }
const LENGTH = 10

/** Added to every variance, CIELAB units squared: below this, differences are grain. */
const GRAIN = 2.5
const ROUNDS = 4
const LOG_2PI_3 = 3 * Math.log(2 * Math.PI)

/**
 * @param samples three values each, one after the other @param weights one a sample @param count how many components there are at most
 * Throws nothing; without samples the mixture has no components and everything is equally improbable.
 */
export function fitMixture(samples: Float32Array, weights: Float32Array, count: number): Mixture {
  const n = weights.length
  const cluster = new Uint8Array(n)
  let moments = [gather(samples, weights, cluster, 0)]
  while (moments.length < count) {
    // The cluster with the widest direction is split across it.
    const widths = moments.map((m) => (m.weight > 0 ? widest(m) : null))
    let best = 0
    widths.forEach((w, i) => { if ((w?.spread ?? 0) > (widths[best]?.spread ?? 0)) best = i })
    const split = widths[best]
    if (!split || split.spread <= moments[best].weight * GRAIN) break
    const { axis } = split, mean = moments[best].mean, middle = axis[0] * mean[0] + axis[1] * mean[1] + axis[2] * mean[2], next = moments.length
    for (let i = 0; i < n; i++) if (cluster[i] === best && axis[0] * samples[i * 3] + axis[1] * samples[i * 3 + 1] + axis[2] * samples[i * 3 + 2] > middle) cluster[i] = next
    moments[best] = gather(samples, weights, cluster, best)
    moments.push(gather(samples, weights, cluster, next))
  }
  let mixture = mixtureOf(moments)
  for (let round = 0; round < ROUNDS; round++) {
    const { components } = mixture, k = components.length / LENGTH
    if (k < 2) break
    for (let i = 0; i < n; i++) {
      let least = Infinity
      for (let c = 0; c < k; c++) { const cost = componentCost(components, c * LENGTH, samples[i * 3], samples[i * 3 + 1], samples[i * 3 + 2]); if (cost < least) { least = cost; cluster[i] = c } }
    }
    moments = Array.from({ length: k }, (_, c) => gather(samples, weights, cluster, c))
    mixture = mixtureOf(moments)
  }
  return mixture
}

/** Beyond this many nats from the likeliest component the others add nothing. */
const NOTHING = 16

/** Negative logarithm of the density at a colour; infinite without components. */
export function mixtureCost({ components }: Mixture, x: number, y: number, z: number): number {
  let least = Infinity, sum = 0
  for (let at = 0; at < components.length; at += LENGTH) {
    const cost = componentCost(components, at, x, y, z)
    if (cost < least) { sum = least - cost < NOTHING ? sum * Math.exp(cost - least) + 1 : 1; least = cost } else if (cost - least < NOTHING) sum += Math.exp(least - cost)
  }
  return least === Infinity ? Infinity : least - Math.log(sum)
}

function componentCost(c: Float64Array, at: number, x: number, y: number, z: number): number {
  const dx = x - c[at + 1], dy = y - c[at + 2], dz = z - c[at + 3]
  return 0.5 * (dx * (c[at + 4] * dx + 2 * (c[at + 5] * dy + c[at + 6] * dz)) + dy * (c[at + 7] * dy + 2 * c[at + 8] * dz) + c[at + 9] * dz * dz) - c[at]
}

interface Moments { weight: number; mean: [number, number, number]; covariance: [number, number, number, number, number, number] }

function gather(samples: Float32Array, weights: Float32Array, cluster: Uint8Array, which: number): Moments {
  let w = 0, x = 0, y = 0, z = 0, xx = 0, xy = 0, xz = 0, yy = 0, yz = 0, zz = 0
  for (let i = 0; i < weights.length; i++) {
    if (cluster[i] !== which) continue
    const weight = weights[i], a = samples[i * 3], b = samples[i * 3 + 1], c = samples[i * 3 + 2]
    w += weight; x += weight * a; y += weight * b; z += weight * c
    xx += weight * a * a; xy += weight * a * b; xz += weight * a * c; yy += weight * b * b; yz += weight * b * c; zz += weight * c * c
  }
  if (w === 0) return { weight: 0, mean: [0, 0, 0], covariance: [1, 0, 0, 1, 0, 1] }
  const mean: [number, number, number] = [x / w, y / w, z / w]
  return { weight: w, mean, covariance: [xx / w - mean[0] ** 2, xy / w - mean[0] * mean[1], xz / w - mean[0] * mean[2], yy / w - mean[1] ** 2, yz / w - mean[1] * mean[2], zz / w - mean[2] ** 2] }
}

/** The direction a cluster is widest in, by power iteration, and its spread: weight times variance. */
function widest({ weight, covariance: [xx, xy, xz, yy, yz, zz] }: Moments): { axis: [number, number, number]; spread: number } {
  let v: [number, number, number] = [1, 0.7, 0.4], length = 0
  for (let round = 0; round < 12; round++) {
    const w: [number, number, number] = [xx * v[0] + xy * v[1] + xz * v[2], xy * v[0] + yy * v[1] + yz * v[2], xz * v[0] + yz * v[1] + zz * v[2]]
    length = Math.hypot(...w)
    if (length < 1e-9) break
    v = [w[0] / length, w[1] / length, w[2] / length]
  }
  return { axis: v, spread: weight * length }
}

function mixtureOf(all: readonly Moments[]): Mixture {
  const moments = all.filter((m) => m.weight > 0), total = moments.reduce((sum, m) => sum + m.weight, 0)
  return { components: Float64Array.from(moments.flatMap(({ weight, mean, covariance }) => {
    const xx = covariance[0] + GRAIN, yy = covariance[3] + GRAIN, zz = covariance[5] + GRAIN, [, xy, xz, , yz] = covariance
    const a = yy * zz - yz * yz, b = xz * yz - xy * zz, c = xy * yz - xz * yy, determinant = Math.max(1e-6, xx * a + xy * b + xz * c)
    return [Math.log(weight / total) - 0.5 * (LOG_2PI_3 + Math.log(determinant)), ...mean, a / determinant, b / determinant, c / determinant, (xx * zz - xz * xz) / determinant, (xy * xz - xx * yz) / determinant, (xx * yy - xy * xy) / determinant]
  })) }
}
