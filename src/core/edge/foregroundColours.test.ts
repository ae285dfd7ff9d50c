import { describe, expect, it } from 'vitest'
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { type Matte, type Picture } from '../raster/picture'
import { foregroundColours } from './foregroundColours'

describe('fringe colours', () => {
  it('two flat colours mixed in linear light: the subject comes back to within two steps, the surroundings leave no rim', () => {
    const width = 40,
      height = 12,
      subject = [200, 110, 40],
      wall = [120, 130, 190]
    const picture: Picture = { width, height, data: new Uint8ClampedArray(width * height * 4) }
    const matte: Matte = { width, height, data: new Uint8Array(width * height) }
    for (let i = 0; i < width * height; i++) {
      const alpha = Math.min(255, Math.max(0, Math.round(((i % width) - 14) * 25)))
      matte.data[i] = alpha
      for (let c = 0; c < 3; c++)
        picture.data[i * 4 + c] = byteOfLinear(
          (LINEAR_OF_BYTE[subject[c]] * alpha + LINEAR_OF_BYTE[wall[c]] * (255 - alpha)) / 255,
        )
      picture.data[i * 4 + 3] = 255
    }
    const out = foregroundColours(picture, matte).data
    for (let i = 0; i < width * height; i++)
      if (matte.data[i] > 0)
        for (let c = 0; c < 3; c++) expect(Math.abs(out[i * 4 + c] - subject[c])).toBeLessThanOrEqual(2)
  })
  it('leaves sure pixels and alpha alone, and does not fail without any sure pixel', () => {
    const picture: Picture = {
      width: 3,
      height: 1,
      data: Uint8ClampedArray.of(10, 20, 30, 255, 40, 50, 60, 128, 70, 80, 90, 255),
    }
    expect([...foregroundColours(picture, { width: 3, height: 1, data: Uint8Array.of(0, 255, 255) }).data]).toEqual([
      ...picture.data,
    ])
    expect(foregroundColours(picture, { width: 3, height: 1, data: Uint8Array.of(9, 99, 199) }).data).toHaveLength(12)
  })
})
