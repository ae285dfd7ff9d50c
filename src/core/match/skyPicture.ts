/** What the picture of a sky says, whatever photo it goes into: it is read once, and kept with the sky. */
import { type Field, number, numbers, oneOf } from '../fields/fields'
import { RecordError } from '../fields/record'
import { type Size } from '../raster/picture'
import { type Light, type SkyLight } from './skyLight'

export interface SkyPicture {
  /** Of what reads it: a sky that an earlier one read is read again. */
  readonly version: number
  readonly size: Size
  /** px from the top. */
  readonly horizonY: number
  readonly light: SkyLight
  /** The colour of the air above its horizon, linear. */
  readonly air: Light
  /** The side the sun stands on; null where the sky is as bright on both. */
  readonly side: 'left' | 'right' | null
  /** Standard deviation, levels. */
  readonly grain: number
  /** Sigma of its edges, px; null where it has none. */
  readonly blur: number | null
}

export const SKY_PICTURE_VERSION = 3

const SIDE = number(1, 1e6),
  LIGHT = numbers(0, 8, 3),
  SHARE = number(0, 1),
  TAKES: readonly (readonly [path: readonly string[], field: Field<never>])[] = (
    [
      [['version'], number(1, 1e6)],
      [['size', 'width'], SIDE],
      [['size', 'height'], SIDE],
      [['horizonY'], SIDE],
      [['light', 'ambient'], LIGHT],
      [['light', 'direct'], LIGHT],
      [['light', 'open'], SHARE],
      [['air'], LIGHT],
      [['grain'], number(0, 255)],
    ] as const
  ).map(([path, field]) => [path, field as Field<never>])
const BLUR = number(0, 1e3),
  ONE_SIDE = oneOf(['left', 'right'])

/** What was read of a sky, from outside. Throws RecordError with the value and what it takes. */
export function parseSkyPicture(input: unknown): SkyPicture {
  const at = (path: readonly string[]): unknown =>
    path.reduce<unknown>((value, name) => (value as Record<string, unknown> | null | undefined)?.[name], input)
  for (const [path, field] of TAKES)
    if (!field.accepts(at(path))) throw new RecordError(`${path.join('.')}: takes ${field.takes}.`)
  const { version, size, horizonY, light, air, side, grain, blur } = input as SkyPicture
  if (side !== null && !ONE_SIDE.accepts(side)) throw new RecordError(`side: takes ${ONE_SIDE.takes}, or null.`)
  if (blur !== null && !BLUR.accepts(blur)) throw new RecordError(`blur: takes ${BLUR.takes}, or null.`)
  return {
    version,
    size: { width: size.width, height: size.height },
    horizonY,
    light: { ambient: light.ambient, direct: light.direct, open: light.open },
    air,
    side,
    grain,
    blur,
  }
}
