/**
 * A mixture of Gaussians in a space of three values: how probable a colour is among samples.
 * Sources: Orchard and Bouman, "Color quantization of images", IEEE Trans. Signal Processing 39 (1991) (splitting along the widest
 * direction); the refinement is hard expectation-maximisation as in Rother, Kolmogorov and Blake, "GrabCut", SIGGRAPH 2004, section 3.
 */
import { withRoom } from '../kernels'

/** Each component is ten numbers, one after the other: logarithm of weight and normalisation; mean x, y, z; inverse covariance xx, xy, xz, yy, yz, zz. */
export interface Mixture {
  readonly components: Float64Array
}
const LENGTH = 10

/** Added to every variance, CIELAB units squared: below this, differences are grain. */
const GRAIN = 2.5
const ROUNDS = 4
const LOG_2PI_3 = 3 * Math.log(2 * Math.PI)

/**
 * @param samples L*, a* and b*, a plane each, `weights.length` values long @param weights one a sample @param count how many components there are at most
 * Throws nothing; without samples the mixture has no components and everything is equally improbable.
 */
export function fitMixture(samples: Float32Array, weights: Float32Array, count: number): Mixture {
  const n = weights.length,
    cluster = new Int32Array(n),
    [xs, ys, zs] = [0, 1, 2].map((k) => samples.subarray(k * n, (k + 1) * n))
  let sums = gather(samples, weights, cluster, 1)
  for (let next = 1; next < count; next++) {
    const moments = momentsOf(sums)
    // The cluster with the widest direction is split across it.
    const widths = moments.map((m) => (m.weight > 0 ? widest(m) : null))
    let best = 0
    widths.forEach((w, i) => {
      if ((w?.spread ?? 0) > (widths[best]?.spread ?? 0)) best = i
    })
    const split = widths[best]
    if (!split || split.spread <= moments[best].weight * GRAIN) break
    const {
        axis: [ax, ay, az],
      } = split,
      mean = moments[best].mean,
      middle = ax * mean[0] + ay * mean[1] + az * mean[2]
    for (let i = 0; i < n; i++)
      if (cluster[i] === best && ax * xs[i] + ay * ys[i] + az * zs[i] > middle) cluster[i] = next
    const parted = new Float64Array((next + 1) * LENGTH),
      mine = gather(samples, weights, cluster, 1, next)
    parted.set(sums)
    mine.forEach((sum, k) => {
      parted[next * LENGTH + k] = sum
      parted[best * LENGTH + k] -= sum
    })
    sums = parted
  }
  let mixture = mixtureOf(momentsOf(sums))
  for (let round = 0; round < ROUNDS; round++) {
    const k = mixture.components.length / LENGTH
    if (k < 2) break
    assign(samples, mixture, cluster)
    mixture = mixtureOf(momentsOf(gather(samples, weights, cluster, k)))
  }
  return mixture
}

/** How much of what lies around a thing may lie in shadow, and which shares of the light may be left there, evenly parted by stops. */
const SHADOWED = 0.1,
  LEAST_LIGHT = 0.3,
  MOST_LIGHT = 0.8,
  SHADES = 4
const LIGHTS = Array.from({ length: SHADES }, (_, k) => MOST_LIGHT * (LEAST_LIGHT / MOST_LIGHT) ** (k / (SHADES - 1)))

/**
 * Colours of which some may lie in shadow: each is also there with less light, its chromaticity unchanged.
 * CIELAB goes with the cube root of the light (ISO/CIE 11664-4; darker than L* 8 it is taken to go on so): a shadow moves a colour towards (-16, 0, 0),
 * and draws its spread together.
 * Source: Horprasert, Harwood and Davis, "A statistical approach for real-time robust background subtraction and shadow detection", ICCV Frame-Rate
 * Workshop 1999 (a shadow lowers brightness and leaves chromaticity).
 */
export function withShadows({ components }: Mixture): Mixture {
  const shaded = (light: number, share: number) => {
    const by = Math.cbrt(light),
      out = components.slice()
    for (let at = 0; at < out.length; at += LENGTH) {
      out[at] += Math.log(share / light)
      out[at + 1] = by * (out[at + 1] + 16) - 16
      out[at + 2] *= by
      out[at + 3] *= by
      for (let k = at + 4; k < at + LENGTH; k++) out[k] /= by ** 2
    }
    return [...out]
  }
  return {
    components: Float64Array.from([
      ...shaded(1, 1 - SHADOWED),
      ...LIGHTS.flatMap((light) => shaded(light, SHADOWED / SHADES)),
    ]),
  }
}

/** Which component each sample is likeliest of. */
function assign(samples: Float32Array, { components }: Mixture, cluster: Int32Array): void {
  const n = cluster.length,
    room = (n + 3) & ~3
  withRoom((stack) => {
    const planes = stack.take(3 * room * 4),
      parts = stack.take(components.length * 4),
      to = stack.take(room * 4)
    for (let k = 0; k < 3; k++) stack.floats(planes + k * room * 4, n).set(samples.subarray(k * n, (k + 1) * n))
    stack.floats(parts, components.length).set(components)
    stack.run.likeliest(planes, room * 4, n, parts, components.length / LENGTH, to)
    cluster.set(stack.words(to, n))
  })
}

/** Beyond this many nats from the likeliest component the others add nothing. */
const NOTHING = 16

/** Negative logarithm of the density at a colour; infinite without components. */
export function mixtureCost({ components }: Mixture, x: number, y: number, z: number): number {
  let least = Infinity,
    sum = 0
  for (let at = 0; at < components.length; at += LENGTH) {
    const cost = componentCost(components, at, x, y, z)
    if (cost < least) {
      sum = least - cost < NOTHING ? sum * Math.exp(cost - least) + 1 : 1
      least = cost
    } else if (cost - least < NOTHING) sum += Math.exp(least - cost)
  }
  return least === Infinity ? Infinity : least - Math.log(sum)
}

function componentCost(c: Float64Array, at: number, x: number, y: number, z: number): number {
  const dx = x - c[at + 1],
    dy = y - c[at + 2],
    dz = z - c[at + 3]
  return (
    0.5 *
      (dx * (c[at + 4] * dx + 2 * (c[at + 5] * dy + c[at + 6] * dz)) +
        dy * (c[at + 7] * dy + 2 * c[at + 8] * dz) +
        c[at + 9] * dz * dz) -
    c[at]
  )
}

interface Moments {
  weight: number
  mean: [number, number, number]
  covariance: [number, number, number, number, number, number]
}

/** For so many clusters from the first on: the weight of their samples, and the weighted sums of the values and of their products. */
function gather(
  samples: Float32Array,
  weights: Float32Array,
  cluster: Int32Array,
  clusters: number,
  first = 0,
): Float64Array {
  const n = weights.length,
    sums = new Float64Array(clusters * LENGTH)
  for (let i = 0; i < n; i++) {
    const at = (cluster[i] - first) * LENGTH
    if (at < 0 || at >= sums.length) continue
    const weight = weights[i],
      x = samples[i],
      y = samples[n + i],
      z = samples[2 * n + i],
      wx = weight * x,
      wy = weight * y,
      wz = weight * z
    sums[at] += weight
    sums[at + 1] += wx
    sums[at + 2] += wy
    sums[at + 3] += wz
    sums[at + 4] += wx * x
    sums[at + 5] += wx * y
    sums[at + 6] += wx * z
    sums[at + 7] += wy * y
    sums[at + 8] += wy * z
    sums[at + 9] += wz * z
  }
  return sums
}

/** Weight, mean and covariance of each cluster. */
function momentsOf(sums: Float64Array): Moments[] {
  return Array.from({ length: sums.length / LENGTH }, (_, k) => {
    const [w, sx, sy, sz, xx, xy, xz, yy, yz, zz] = sums.subarray(k * LENGTH, (k + 1) * LENGTH)
    if (w <= 0) return { weight: 0, mean: [0, 0, 0], covariance: [1, 0, 0, 1, 0, 1] }
    const x = sx / w,
      y = sy / w,
      z = sz / w
    return {
      weight: w,
      mean: [x, y, z],
      covariance: [xx / w - x * x, xy / w - x * y, xz / w - x * z, yy / w - y * y, yz / w - y * z, zz / w - z * z],
    }
  })
}

/** The direction a cluster is widest in, by power iteration, and its spread: weight times variance. */
function widest({ weight, covariance: [xx, xy, xz, yy, yz, zz] }: Moments): {
  axis: [number, number, number]
  spread: number
} {
  let v: [number, number, number] = [1, 0.7, 0.4],
    length = 0
  for (let round = 0; round < 12; round++) {
    const w: [number, number, number] = [
      xx * v[0] + xy * v[1] + xz * v[2],
      xy * v[0] + yy * v[1] + yz * v[2],
      xz * v[0] + yz * v[1] + zz * v[2],
    ]
    length = Math.hypot(...w)
    if (length < 1e-9) break
    v = [w[0] / length, w[1] / length, w[2] / length]
  }
  return { axis: v, spread: weight * length }
}

function mixtureOf(all: readonly Moments[]): Mixture {
  const moments = all.filter((m) => m.weight > 0),
    total = moments.reduce((sum, m) => sum + m.weight, 0)
  return {
    components: Float64Array.from(
      moments.flatMap(({ weight, mean, covariance }) => {
        const xx = covariance[0] + GRAIN,
          yy = covariance[3] + GRAIN,
          zz = covariance[5] + GRAIN,
          [, xy, xz, , yz] = covariance
        const a = yy * zz - yz * yz,
          b = xz * yz - xy * zz,
          c = xy * yz - xz * yy,
          determinant = Math.max(1e-6, xx * a + xy * b + xz * c)
        return [
          Math.log(weight / total) - 0.5 * (LOG_2PI_3 + Math.log(determinant)),
          ...mean,
          a / determinant,
          b / determinant,
          c / determinant,
          (xx * zz - xz * xz) / determinant,
          (xy * xz - xx * yz) / determinant,
          (xx * yy - xy * xy) / determinant,
        ]
      }),
    ),
  }
}
