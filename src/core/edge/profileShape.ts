/** What the values of an edge step make of the edge seen across, and the other way: which values make it as wide as it is wanted. */

/** Values of an edge step: px, 0-1, px. */
export interface EdgeShape {
  readonly feather: number
  readonly crispness: number
  readonly offset: number
}
/** Coverage at the inner and at the outer end of an edge; hair makes what lies beyond long and flat. */
export const INNER = 0.9,
  OUTER = 0.1
/** Where coverage falls below them and below one half, px from the boundary, out positive. */
export interface Crossings {
  readonly inner: number
  readonly middle: number
  readonly outer: number
}
/** A blur's tails end so many sigmas out. */
const TAIL = 3
/** Softer than this nothing looks like an edge, px. */
export const SOFTEST = 100
const HALVINGS = 20

/** Mean coverage 0-1 from inside to outside, px by px, its middle the boundary; softened, crisped and moved as the step does it. */
export function shapedProfile(profile: ArrayLike<number>, { feather, crispness, offset }: EdgeShape): Float32Array {
  const soft = blurred(profile, feather / 2),
    steep = 1 / Math.max(1 / 256, 1 - crispness),
    crisp = crispness > 0 ? soft.map((v) => Math.max(0, Math.min(1, 0.5 + (v - 0.5) * steep))) : soft
  return offset === 0 ? crisp : crisp.map((_, i) => at(crisp, i - offset))
}
/** Between the px of a profile; beyond its ends as at them. */
export function at(profile: ArrayLike<number>, place: number): number {
  const i = Math.max(0, Math.min(profile.length - 1, place)),
    whole = Math.min(profile.length - 2, Math.floor(i))
  return profile[whole] + (i - whole) * (profile[whole + 1] - profile[whole])
}
function blurred(profile: ArrayLike<number>, sigma: number): Float32Array {
  if (sigma <= 0) return Float32Array.from(profile)
  const reach = Math.ceil(TAIL * sigma),
    weights = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma))),
    sum = weights.reduce((a, b) => a + b)
  return Float32Array.from(
    { length: profile.length },
    (_, i) => weights.reduce((total, weight, k) => total + weight * at(profile, i + k - reach), 0) / sum,
  )
}

export function crossingsOf(profile: ArrayLike<number>): Crossings {
  const middle = (profile.length - 1) / 2
  const below = (level: number): number => {
    for (let i = 1; i < profile.length; i++)
      if (profile[i] < level && profile[i - 1] >= level)
        return i - 1 + (profile[i - 1] - level) / (profile[i - 1] - profile[i]) - middle
    return profile[0] < level ? -middle : middle
  }
  return { inner: below(INNER), middle: below(0.5), outer: below(OUTER) }
}
const widthOf = (profile: ArrayLike<number>): number => {
  const { inner, outer } = crossingsOf(profile)
  return outer - inner
}

/** What makes the edge so wide, from its inner to its outer end, px: softer than it was measured, or crisper. */
export function shapeOfWidth(
  profile: ArrayLike<number>,
  width: number,
): { readonly feather: number; readonly crispness: number } {
  const made = (feather: number, crispness: number): number =>
    widthOf(shapedProfile(profile, { feather, crispness, offset: 0 }))
  const softer = width >= made(0, 0)
  let low = 0,
    high = softer ? SOFTEST : 1
  for (let k = 0; k < HALVINGS; k++) {
    const half = (low + high) / 2
    // Softer makes it wider, crisper narrower.
    if (softer ? made(half, 0) < width : made(0, half) > width) low = half
    else high = half
  }
  return softer
    ? { feather: Math.round(low * 10) / 10, crispness: 0 }
    : { feather: 0, crispness: Math.round(low * 100) / 100 }
}
