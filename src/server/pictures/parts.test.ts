import { existsSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { picturePyramid } from '@/core/raster/levels'
import { type Picture } from '@/core/raster/picture'
import { PictureFiles } from './parts'

const WIDTH = 611,
  HEIGHT = 457 // odd: levels round up
const folder = mkdtempSync(join(tmpdir(), 'wily-parts-')),
  file = join(folder, 'picture.png')
const picture: Picture = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8ClampedArray(WIDTH * HEIGHT * 4).map((_, i) =>
    i % 4 === 3 ? 255 - ((i >> 9) % 7) : (i * 31 + (i >> 7)) % 256,
  ),
}
const levels = picturePyramid(picture, false)
let parts: PictureFiles

beforeAll(async () => {
  await sharp(picture.data, { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
    .png()
    .toFile(file)
  parts = await PictureFiles.create(join(folder, 'raw'))
  await parts.add('a', file)
})
afterAll(() => parts.close())

describe('pictures in parts', () => {
  it('all of a picture is the picture, with the same levels as in the page', () => {
    const all = parts.all('a')
    expect(all.opaque).toBe(false)
    expect(all.levels.map(({ width, height }) => [width, height])).toEqual(
      levels.map(({ width, height }) => [width, height]),
    )
    all.levels.forEach((level, i) =>
      expect(Buffer.compare(Buffer.from(level.data), Buffer.from(levels[i].data)), `level ${i}`).toBe(0),
    )
  })
  it.each([
    [100, 60, 200, 90],
    [-50, -50, 120, 120],
    [501, 401, 400, 400],
    [0, 10, WIDTH, 33],
    [9999, 9999, 5, 5],
  ])('a part at (%d, %d) of %d × %d is that part, held within the picture, on even pixels', (x, y, width, height) => {
    parts.begin()
    const {
      levels: [fine, half],
      size,
    } = parts.part('a', { x, y, width, height }, true)
    expect(size).toEqual({ width: WIDTH, height: HEIGHT })
    expect([fine.left! % 2, fine.top! % 2]).toEqual([0, 0])
    for (let row = 0; row < fine.height; row += 7)
      for (let column = 0; column < fine.width; column += 5)
        expect([...fine.data.subarray((row * fine.width + column) * 4, (row * fine.width + column) * 4 + 4)]).toEqual([
          ...picture.data.subarray(
            ((fine.top! + row) * WIDTH + fine.left! + column) * 4,
            ((fine.top! + row) * WIDTH + fine.left! + column) * 4 + 4,
          ),
        ])
    expect([half.left, half.top]).toEqual([fine.left! / 2, fine.top! / 2])
  })
  it('parts handed out together do not share their memory', () => {
    parts.begin()
    const one = parts.part('a', { x: 0, y: 0, width: 64, height: 64 }, false).levels[0],
      before = one.data.slice()
    parts.part('a', { x: 300, y: 200, width: 64, height: 64 }, false)
    expect(one.data).toEqual(before)
  })
  it('a picture that is gone is named in a sentence', async () => {
    await expect(parts.add('0123456789', join(folder, 'gone'))).rejects.toThrow(
      'A picture of this project (01234567…) is not stored here any more',
    )
  })
  it('takes its files away when it is closed', async () => {
    const own = await PictureFiles.create(join(folder, 'own'))
    await own.add('a', file)
    expect(existsSync(join(folder, 'own'))).toBe(true)
    await own.close()
    expect(existsSync(join(folder, 'own'))).toBe(false)
  })
})
