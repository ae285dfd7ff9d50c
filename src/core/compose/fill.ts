/** Colours and gradients that fill a layer. */
import { type Affine, apply, inverse } from '../raster/affine'
import { EARLIER_SHAPES, rampPlace, RAMP_SHAPES, type RampShape, stopTable } from '../raster/ramp'

/** #rrggbb */
export type Hex = `#${string}`
export interface ColourStop {
  /** 0-1 */ readonly at: number
  readonly colour: Hex
  /** 0-1 */ readonly alpha: number
}
export type Fill =
  | { readonly kind: 'colour'; readonly colour: Hex }
  | {
      readonly kind: 'gradient'
      readonly shape: RampShape
      readonly from: readonly [number, number]
      readonly to: readonly [number, number]
      readonly stops: readonly ColourStop[]
    }

export const isHex = (v: unknown): v is Hex => typeof v === 'string' && /^#[0-9a-f]{6}$/i.test(v)
/** Red, green, blue 0-1. */
export const channelsOf = (hex: Hex): [number, number, number] =>
  [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255) as [number, number, number]

const MOST_STOPS = 64
/** What is wrong with a fill from outside; undefined when nothing is. */
export function fillProblem(v: unknown): string | undefined {
  const fill = v as Fill | null
  const isPlace = (p: unknown): boolean =>
    Array.isArray(p) && p.length === 2 && p.every((n) => typeof n === 'number' && Math.abs(n) <= 1e7)
  if (typeof fill !== 'object' || fill === null) return 'a colour or a gradient'
  if (fill.kind === 'colour') return isHex(fill.colour) ? undefined : 'a colour as #rrggbb'
  if (fill.kind !== 'gradient') return 'a kind "colour" or "gradient"'
  if (!RAMP_SHAPES.includes(EARLIER_SHAPES[fill.shape] ?? fill.shape)) return `a shape out of ${RAMP_SHAPES.join(', ')}`
  if (!isPlace(fill.from) || !isPlace(fill.to)) return 'two ends [x, y]'
  const isStop = (s: unknown): boolean => {
    const stop = s as ColourStop | null
    return (
      typeof stop === 'object' &&
      stop !== null &&
      typeof stop.at === 'number' &&
      stop.at >= 0 &&
      stop.at <= 1 &&
      isHex(stop.colour) &&
      typeof stop.alpha === 'number' &&
      stop.alpha >= 0 &&
      stop.alpha <= 1
    )
  }
  return Array.isArray(fill.stops) &&
    fill.stops.length >= 1 &&
    fill.stops.length <= MOST_STOPS &&
    fill.stops.every(isStop)
    ? undefined
    : `1 to ${MOST_STOPS} stops { at 0-1, colour, alpha 0-1 }`
}

const STEPS = 1024

/**
 * Makes what writes a row of the fill: `row` gets 4 floats a pixel (premultiplied, encoded, 0-1) of pixels of `size` canvas px from (x, y) on.
 * Colours are mixed premultiplied, so a stop without alpha lends no colour. Null when the fill's placement is flat.
 */
export function fillRows(
  fill: Fill,
  toCanvas: Affine,
): ((row: Float32Array, x: number, y: number, size: number) => void) | null {
  if (fill.kind === 'colour') {
    const [r, g, b] = channelsOf(fill.colour)
    return (row) => {
      for (let i = 0; i < row.length; i += 4) {
        row[i] = r
        row[i + 1] = g
        row[i + 2] = b
        row[i + 3] = 1
      }
    }
  }
  let toFill: Affine
  try {
    toFill = inverse(toCanvas)
  } catch {
    return null
  }
  const place = rampPlace(fill.shape, fill.from, fill.to)
  const table = stopTable(
    fill.stops.map(({ at, colour, alpha }) => ({ at, value: [...channelsOf(colour).map((c) => c * alpha), alpha] })),
    4,
    STEPS,
  )
  return (row, x, y, size) => {
    let [u, v] = apply(toFill, (x + 0.5) * size, (y + 0.5) * size)
    const du = toFill[0] * size,
      dv = toFill[1] * size
    for (let i = 0; i < row.length; i += 4, u += du, v += dv) {
      const at = ((place(u, v) * STEPS + 0.5) | 0) * 4
      row[i] = table[at]
      row[i + 1] = table[at + 1]
      row[i + 2] = table[at + 2]
      row[i + 3] = table[at + 3]
    }
  }
}
