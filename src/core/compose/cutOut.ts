import { IDENTITY, isIdentity } from '../raster/affine'
import { foregroundColours, type FringeOptions } from '../edge/foregroundColours'
import { type Crew } from '../parallel/crew'
import { isOpaque, type Matte, type Picture, sameSize } from '../raster/picture'
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { type PlacedMask } from './nodes'
import { composeRegion } from './composeRegion'

/** What a mask leaves of a picture, in the picture's own pixels. */
export function coverageOf(picture: Picture, mask: PlacedMask): Matte {
  const { width, height } = picture,
    [own] = mask.levels
  // Most often: a mask made of the picture itself, which is opaque.
  if (isIdentity(mask.toCanvas) && sameSize(own, picture) && (mask.strength ?? 1) === 1 && isOpaque(picture))
    return { width, height, data: mask.invert ? own.data.map((v) => 255 - v) : own.data.slice() }
  const masked = composeRegion(
    [{ kind: 'picture', picture: { levels: [picture], opaque: false }, toCanvas: IDENTITY, opacity: 1, mask }],
    { level: 0, x: 0, y: 0, width, height },
  )
  const coverage: Matte = { width, height, data: new Uint8Array(width * height) }
  for (let i = 0; i < coverage.data.length; i++) coverage.data[i] = masked.data[i * 4 + 3]
  return coverage
}

/** A picture at its own size, its alpha multiplied by a mask, the soft pixels in the subject's own colours (no rim of the old backdrop). */
export function cutOut(
  picture: Picture,
  mask: PlacedMask | undefined,
  fringe: FringeOptions = {},
  check: (progress: number) => void = () => {},
  crew?: Crew,
): Picture {
  if (!mask) return picture
  const coverage = coverageOf(picture, mask),
    cleaned = foregroundColours(picture, coverage, fringe, check, crew)
  for (let i = 0; i < coverage.data.length; i++) {
    cleaned.data[i * 4 + 3] = coverage.data[i]
    if (coverage.data[i] === 0) cleaned.data[i * 4] = cleaned.data[i * 4 + 1] = cleaned.data[i * 4 + 2] = 0 // nothing of the old backdrop leaves the house
  }
  return cleaned
}

/** Lays a cut-out over an opaque backdrop of the same size, in linear light, as a camera would have mixed them. Works in place on the backdrop. */
export function layOver(backdrop: Picture, cutout: Picture): void {
  const below = backdrop.data,
    above = cutout.data
  for (let i = 0; i < below.length; i += 4) {
    const alpha = above[i + 3] / 255
    if (alpha === 0) continue
    for (let c = 0; c < 3; c++)
      below[i + c] = byteOfLinear(LINEAR_OF_BYTE[above[i + c]] * alpha + LINEAR_OF_BYTE[below[i + c]] * (1 - alpha))
    below[i + 3] = 255
  }
}
