/** Files are read back by libvips (sharp), EXIF by exifr: not by what wrote them here. */
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import exifr from 'exifr'
import { decode } from 'fast-png'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { FILE_FORMATS, FORMATS } from '@/document/fileFormats'
import { encoded, greyPng, writePicture } from './encode'
import { exifOf } from './exif'

const WIDTH = 48,
  HEIGHT = 32
const picture = {
  width: WIDTH,
  height: HEIGHT,
  data: Uint8ClampedArray.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => {
    const x = (i >> 2) % WIDTH
    return i % 4 === 3 ? (x < 24 ? 255 : 128) : [40 + 2 * x, 120, 200 - x][i % 4]
  }),
}
const usual = { quality: 95, background: '#ffffff' }
const read = async (file: Buffer) => sharp(file).ensureAlpha().raw().toBuffer()

describe('files of a picture', () => {
  it.each(FILE_FORMATS)('%s: read back it looks the same', async (format) => {
    const file = await encoded(picture, { ...usual, format }).toBuffer(),
      { format: found, hasAlpha } = await sharp(file).metadata()
    expect(found).toBe(format === 'avif' ? 'heif' : format)
    expect(hasAlpha).toBe(FORMATS[format].alpha)
    const back = await read(file)
    let worst = 0
    for (let i = 0; i < back.length; i++) {
      const alpha = FORMATS[format].alpha ? 255 : picture.data[i | 3],
        wanted =
          i % 4 === 3
            ? FORMATS[format].alpha
              ? picture.data[i]
              : 255
            : (picture.data[i] * alpha + 255 * (255 - alpha)) / 255
      worst = Math.max(worst, Math.abs(back[i] - wanted))
    }
    // Lossy ones may be off where the alpha steps.
    expect(worst).toBeLessThanOrEqual(FORMATS[format].lossy ? 40 : 1)
  })
  it.each(['png', 'tiff'] as const)('16 bits as %s lose nothing', async (format) => {
    const data = Uint16Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => (i % 4 === 3 ? 65535 : (i * 2477) % 65536)),
      file = await encoded({ width: WIDTH, height: HEIGHT, data }, { ...usual, format }).toBuffer()
    expect((await sharp(file).metadata()).depth).toBe('ushort')
    const { buffer, byteOffset, length } = await sharp(file).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer()
    expect(new Uint16Array(buffer.slice(byteOffset, byteOffset + length))).toEqual(data)
  })
  it('a matte is grey, of 8 or 16 bits', async () => {
    const matte = { width: 4, height: 1, data: Uint8Array.of(0, 1, 128, 255) }
    expect([...decode(await greyPng(matte, 8).toBuffer()).data]).toEqual([0, 1, 128, 255])
    const deep = decode(await greyPng(matte, 16).toBuffer())
    expect([deep.channels, deep.depth, ...deep.data]).toEqual([1, 16, 0, 257, 32896, 65535])
  })
})

describe('what a photo says of itself', () => {
  const photo = async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'wily-exif-')), 'photo.jpg')
    writeFileSync(
      file,
      await sharp({ create: { width: 20, height: 10, channels: 3, background: '#884422' } })
        .withExif({
          IFD0: { Make: 'Pine & Quay', Model: 'Box 7', Artist: 'Nell Amber', Copyright: 'Nell Amber' },
          IFD2: { ExposureTime: '1/250', FNumber: '56/10', ISOSpeedRatings: '400', BodySerialNumber: '12345' },
          IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' },
        })
        .jpeg()
        .toBuffer(),
    )
    return file
  }
  it.each(FILE_FORMATS)('goes along in %s, the place and serial numbers never', async (format) => {
    const file = join(mkdtempSync(join(tmpdir(), 'wily-exif-')), 'out')
    await writePicture(picture, { ...usual, format, exif: await exifOf(await photo()) }, file)
    const found = (await sharp(file).metadata()).exif,
      raw = found?.toString('latin1', 0, 4) === 'Exif' ? found.subarray(6) : found
    const tags = (await exifr.parse(format === 'tiff' ? file : raw!, {
      gps: true,
      tiff: true,
      exif: true,
    })) as Record<string, unknown>
    expect(tags).toMatchObject({ Make: 'Pine & Quay', Model: 'Box 7', Artist: 'Nell Amber', FNumber: 5.6, ISO: 400 })
    expect(tags.ExposureTime).toBeCloseTo(1 / 250, 6)
    expect(Object.keys(tags).filter((name) => /gps|latitude|serial/i.test(name))).toEqual([])
  })
  it.each([8, 16])(
    'a TIFF of %s bits with it shows the same picture, of the same profile and resolution',
    async (bits) => {
      const folder = mkdtempSync(join(tmpdir(), 'wily-exif-')),
        deep = bits === 16 ? { ...picture, data: Uint16Array.from(picture.data, (v) => v * 257) } : picture,
        [bare, told] = [join(folder, 'bare'), join(folder, 'told')],
        encoding = { ...usual, format: 'tiff', ppi: 240 } as const
      await writePicture(deep, encoding, bare)
      await writePicture(deep, { ...encoding, exif: { IFD0: { Artist: 'Nell Åmber' } } }, told)
      const [facts, wanted] = await Promise.all([told, bare].map((file) => sharp(file).metadata()))
      expect({ ...facts, size: 0 }).toEqual({ ...wanted, size: 0 })
      expect(await sharp(told).raw().toBuffer()).toEqual(await sharp(bare).raw().toBuffer())
      expect(((await exifr.parse(told)) as { Artist: string }).Artist).toContain('Nell')
    },
  )
  it('a file that says nothing, or is damaged, has none', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'wily-exif-')), 'x.png')
    writeFileSync(
      file,
      await sharp({ create: { width: 2, height: 2, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
    )
    expect(await exifOf(file)).toBeUndefined()
    writeFileSync(file, 'no picture')
    expect(await exifOf(file)).toBeUndefined()
  })
})
