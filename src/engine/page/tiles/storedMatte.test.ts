import fc from '../../../../tests/properties'
import { encode } from 'fast-png'
import sharp from 'sharp'
import { expect, it } from 'vitest'
import { type Matte } from '@/core/raster/picture'
import { matteOfPng, pngOfMatte } from './storedMatte'

const mattes = fc
  .tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 1 << 30 }))
  .map(([width, height, seed]): Matte => ({
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, i) => Math.imul(i + seed, 2654435761) >>> 24),
  }))
const bytesOf = (file: Uint8Array): ArrayBuffer => Uint8Array.from(file).buffer

it('a matte comes back as it was, and another reader (sharp) sees the same', async () => {
  await fc.assert(
    fc.asyncProperty(mattes, async (matte) => {
      const file = await pngOfMatte(matte),
        back = await matteOfPng(bytesOf(file))
      expect(back && { ...back, data: [...back.data] }).toEqual({ ...matte, data: [...matte.data] })
      expect([...(await sharp(file).toColourspace('b-w').raw().toBuffer())]).toEqual([...matte.data])
    }),
  )
})
it('grey files that others made, with filtered rows, are read too; colour, alpha and 16 bits are not', async () => {
  await fc.assert(
    fc.asyncProperty(mattes, async (matte) => {
      const { width, height, data } = matte
      const file = await sharp(data, { raw: { width, height, channels: 1 } })
        .toColourspace('b-w')
        .png({ adaptiveFiltering: true })
        .toBuffer()
      const back = await matteOfPng(bytesOf(file))
      expect(back && [...back.data]).toEqual([...data])
    }),
  )
  const four = { width: 2, height: 2, depth: 8 } as const
  expect(await matteOfPng(bytesOf(encode({ ...four, channels: 3, data: new Uint8Array(12) })))).toBeNull()
  expect(await matteOfPng(bytesOf(encode({ ...four, channels: 2, data: new Uint8Array(8) })))).toBeNull()
  expect(await matteOfPng(bytesOf(encode({ ...four, depth: 16, channels: 1, data: new Uint16Array(4) })))).toBeNull()
})
it('a file that breaks off is refused', async () => {
  const file = await pngOfMatte({ width: 30, height: 30, data: new Uint8Array(900).fill(7) })
  for (const length of [0, 10, 40, file.length - 20])
    await expect(matteOfPng(bytesOf(file.subarray(0, length)))).rejects.toThrow()
})
