/**
 * Whether all four bytes of a word lie between two bounds, without taking it apart: two bytes at a time in lanes of 16 bits, a
 * comparison is an addition that carries into the lane's ninth bit. (SIMD within a register: Warren, "Hacker's Delight", 2-18.)
 */
export interface Bounds {
  readonly evenLow: number
  readonly evenHigh: number
  readonly oddLow: number
  readonly oddHigh: number
}

/** @param low @param high four bytes each, red first; both ends belong to the range */
export function boundsOf(low: readonly number[], high: readonly number[]): Bounds {
  const lanes = (a: number, b: number) => (b << 16) | a
  return {
    evenLow: lanes(256 - low[0], 256 - low[2]),
    evenHigh: lanes(255 - high[0], 255 - high[2]),
    oddLow: lanes(256 - low[1], 256 - low[3]),
    oddHigh: lanes(255 - high[1], 255 - high[3]),
  }
}

const CARRIES = 0x01000100

export function isWithin(word: number, evenLow: number, evenHigh: number, oddLow: number, oddHigh: number): boolean {
  const even = word & 0xff00ff,
    odd = (word >>> 8) & 0xff00ff
  return ((even + evenLow) & ~(even + evenHigh) & (odd + oddLow) & ~(odd + oddHigh) & CARRIES) === CARRIES
}
