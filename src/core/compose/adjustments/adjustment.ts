/** What an adjustment is: values, and what they do to rows of pixels. One file and one row in the registry each. */
import { type Exports } from '../../kernels/exports'
import { type Size } from '../../raster/picture'
import { type Fields } from '../../fields/fields'
import { type LeastRow } from '../least'
import { type MirroredRow, type MirrorLine } from '../mirror'
import { type Region } from '../region'

/** What lies round about, in the adjustment's own kind of values. */
export interface Surround {
  /** Blurred, 4 floats a pixel of the region. @param sigma canvas px */
  gaussian(sigma: number): Float32Array
  /** The same. @param radius canvas px */
  disc(radius: number): Float32Array
  /** The least of the channels, each times its own of `per`, within a square: a float a pixel, row by row. @param reach half its side, canvas px */
  least(reach: number, per: readonly number[]): LeastRow
  /** What lies at the bottom of the group, mirrored about a horizon: 4 floats a pixel, row by row. */
  mirrored(line: MirrorLine): MirroredRow
  /** How far the outline of what lies below faces a direction (a unit vector), blurred by `sigma` canvas px: −1 to 1, a float a pixel of the region. */
  facing(sigma: number, dx: number, dy: number): Float32Array
}

/** Changes row `y` of the region (counted within it), in place: 4 floats a pixel, 0-1; red, green, blue may lie outside and come back clamped. Alpha must stay. */
export type RowWork = (row: Float32Array, y: number) => void

/** Changes rows in the kernels' memory, in place and clamped, with a table of its own beside them: the same for all rows, or filled for each (row `y` as above). */
export interface RowKernel {
  readonly table?: Float32Array | { readonly floats: number; fill(into: Float32Array, y: number): void }
  run(kernels: Exports, at: number, count: number, table: number): void
}

export interface Adjustment<K extends string = string, P = object> {
  readonly kind: K
  readonly fields: Fields<P>
  /** Which values it works on: encoded sRGB, linear light, or whatever the composition blends in. */
  readonly values: 'encoded' | 'linear' | 'blending'
  /** True when it takes and gives premultiplied colour, and alpha may change. */
  readonly premultiplied?: true
  /** Where it looks at what lies round about: how far, canvas px. */
  reach?(this: void, params: P): number
  /** True when its surround is all it looks at: what is there already need not be drawn. */
  replaces?(this: void, params: P): boolean
  /** For one that treats each channel by itself: the three curves; null when these values change nothing. It has no `rows`. */
  channels?(this: void, params: P): readonly [red: ToneCurve, green: ToneCurve, blue: ToneCurve] | null
  /** Where a kernel does it; null when these values change nothing. */
  kernel?(params: P, region: Region, canvas: Size, surround: Surround): RowKernel | null
  /** Null when these values change nothing. */
  rows?(params: P, region: Region, canvas: Size, surround: Surround): RowWork | null
}

/** Luma of encoded sRGB. Source: ITU-R BT.709-6, the primaries' luminances. */
export const luma = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b

/** What one channel's value becomes, 0-1; what leaves 0-1 comes back clamped. */
export type ToneCurve = (v: number) => number

/** A curve for all channels and each channel's own, as three: first its own, then the one for all. Null when they all are `plain`. */
export function ownThenAll<T>(
  { all, red, green, blue }: { readonly all: T; readonly red: T; readonly green: T; readonly blue: T },
  plain: (values: T) => boolean,
  curveOf: (values: T) => ToneCurve,
): readonly [ToneCurve, ToneCurve, ToneCurve] | null {
  if ([all, red, green, blue].every(plain)) return null
  const together = curveOf(all),
    of = (own: T): ToneCurve => {
      if (plain(own)) return together
      const first = curveOf(own)
      return (v) => together(first(v))
    }
  return [of(red), of(green), of(blue)]
}

/** How far a Gaussian of a radius (two standard deviations) is seen. */
export const gaussianReach = (radius: number): number => 1.75 * radius

/** 0 below `from`, 1 above `to`, smooth between. */
export const smoothStep = (from: number, to: number, v: number): number => {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
