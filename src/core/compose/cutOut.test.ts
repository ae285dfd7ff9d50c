/** What a mask leaves of a picture, told at once or composed: the same. */
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { IDENTITY } from '../raster/affine'
import { type Matte, type Picture } from '../raster/picture'
import { composeRegion } from './composeRegion'
import { coverageOf } from './cutOut'
import { type PlacedMask } from './nodes'

const SIZE = { width: 7, height: 5 },
  COUNT = SIZE.width * SIZE.height
const bytes = (length: number, min = 0) =>
  fc.array(fc.integer({ min, max: 255 }), { minLength: length, maxLength: length })

it('is the alpha of the masked picture, whatever mask, picture and strength', () => {
  fc.assert(
    fc.property(
      bytes(COUNT),
      fc.oneof(fc.constant(new Array<number>(COUNT).fill(255)), bytes(COUNT)),
      fc.boolean(),
      fc.boolean(),
      fc.constantFrom(undefined, 1, 0.4),
      fc.constantFrom(0, 2),
      (cover, alpha, invert, outsideShown, strength, moved) => {
        const own: Matte = { ...SIZE, data: Uint8Array.from(cover) },
          picture: Picture = { ...SIZE, data: Uint8ClampedArray.from(alpha.flatMap((a) => [90, 120, 40, a])) },
          mask: PlacedMask = { levels: [own], toCanvas: [1, 0, 0, 1, moved, 0], invert, outsideShown, strength }
        const composed = composeRegion(
          [{ kind: 'picture', picture: { levels: [picture], opaque: false }, toCanvas: IDENTITY, opacity: 1, mask }],
          { level: 0, x: 0, y: 0, ...SIZE },
        )
        expect([...coverageOf(picture, mask).data]).toEqual(Array.from(cover, (_, i) => composed.data[4 * i + 3]))
      },
    ),
  )
})
