import { describe, expect, it } from 'vitest'
import { parseSkyPicture, SKY_PICTURE_VERSION, type SkyPicture } from './skyPicture'

const sky: SkyPicture = {
  version: SKY_PICTURE_VERSION,
  size: { width: 2400, height: 1600 },
  horizonY: 1400.5,
  light: { ambient: [0.4, 0.5, 0.6], direct: [0, 0, 0], open: 0.2 },
  air: [0.6, 0.6, 0.7],
  side: 'left',
  grain: 0.7,
  blur: 0.9,
}

describe('what was read of a sky, from outside', () => {
  it('is taken as it was written, without what does not belong to it', () => {
    expect(parseSkyPicture(JSON.parse(JSON.stringify(sky)))).toEqual(sky)
    expect(parseSkyPicture({ ...sky, side: null, more: 'x', light: { ...sky.light, more: 1 } })).toEqual({
      ...sky,
      side: null,
    })
  })
  it('is refused by the name of the value, whatever it is', () => {
    const broken: readonly [unknown, string][] = [
      [null, 'version'],
      ['sky', 'version'],
      [{ ...sky, size: { width: 0, height: 9 } }, 'size.width'],
      [{ ...sky, size: null }, 'size.width'],
      [{ ...sky, horizonY: '12' }, 'horizonY'],
      [{ ...sky, light: { ...sky.light, ambient: [1, 2] } }, 'light.ambient'],
      [{ ...sky, light: { ...sky.light, open: NaN } }, 'light.open'],
      [{ ...sky, air: [1, 1, Infinity] }, 'air'],
      [{ ...sky, side: 'above' }, 'side'],
      [{ ...sky, grain: -1 }, 'grain'],
      [{ ...sky, blur: 'much' }, 'blur'],
    ]
    for (const [input, name] of broken)
      expect(() => parseSkyPicture(input), name).toThrow(new RegExp(`^${name.replace('.', '\\.')}: takes`))
  })
})
