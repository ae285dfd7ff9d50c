/** The share of the canvas a pick takes at every tolerance, and where it spills. */

export interface ToleranceCurve {
  /** 256 shares (0-1), one for each tolerance. Never falls. */
  readonly shares: readonly number[]
  /** Tolerances at which the area leaps after having been nearly still: the pick has found a way into something else. */
  readonly spills: readonly number[]
}

/** A leap takes at least this share of the canvas in one tolerance step ... */
const LEAST_LEAP = 0.012
/** ... and at least this many times the mean growth of the steps before it. */
const LEAP_RATIO = 4
const STILL_STEPS = 4

/** @param ends how many pixels have joined at each tolerance (256 counts); the last is all of them */
export function toleranceCurve(ends: Int32Array): ToleranceCurve {
  const shares = Array.from(ends, (count) => count / ends[255])
  const spills: number[] = []
  for (let t = STILL_STEPS + 1; t < 256; t++) {
    const leap = shares[t] - shares[t - 1],
      before = (shares[t - 1] - shares[t - 1 - STILL_STEPS]) / STILL_STEPS
    if (leap >= LEAST_LEAP && leap >= LEAP_RATIO * before) spills.push(t)
  }
  return { shares, spills }
}
