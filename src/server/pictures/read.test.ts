/** Files that are not what they seem, without a server: what no decoder should see is refused by its first bytes. */
import fc from '../../../tests/properties'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { kindOf, tiffIsWhole } from './firstBytes'
import { checkPicture, PictureError } from './read'
import { inTurn } from './turns'

const photo = () =>
  sharp({
    create: {
      width: 90,
      height: 60,
      channels: 3,
      background: '#507090',
      noise: { type: 'gaussian', mean: 120, sigma: 40 },
    },
  })

describe('first bytes', () => {
  it('tell every kind that is read, as sharp’s own encoders write them', async () => {
    for (const [kind, bytes] of [
      ['jpeg', await photo().jpeg().toBuffer()],
      ['png', await photo().png().toBuffer()],
      ['webp', await photo().webp().toBuffer()],
      ['gif', await photo().gif().toBuffer()],
      ['tiff', await photo().tiff().toBuffer()],
      ['heif', await photo().avif({ effort: 0 }).toBuffer()],
    ] as const)
      expect(await kindOf(bytes)).toBe(kind)
  })
  it('tell nothing of anything else', async () => {
    for (const text of [
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
      '%PDF-1.7',
      '',
      'RIFF1234WAVE',
      '....ftypqt  ',
      'II',
      '<?xml version="1.0"?>',
    ])
      expect(await kindOf(Buffer.from(text))).toBeNull()
    await expect(
      checkPicture(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), 'a.svg'),
    ).rejects.toThrow(PictureError)
  })
})

describe('TIFF', () => {
  it('is whole in strips, tiles and both byte orders, and cut anywhere it is read only where all its pixels are there', async () => {
    for (const options of [
      { compression: 'none' },
      { compression: 'lzw' },
      { tile: true, compression: 'deflate' },
      { bigtiff: true },
    ] as const) {
      const whole = await photo().tiff(options).toBuffer()
      expect(await tiffIsWhole(whole)).toBe(true)
      await fc.assert(
        fc.asyncProperty(fc.integer({ min: 0, max: whole.length - 1 }), async (length) => {
          const cut = whole.subarray(0, length)
          // What is behind the pixels may be missing; then the decoder has the word, in a sentence, too.
          const refused = await checkPicture(cut, 'cut.tif').then(
            () => null,
            (error: unknown) => error,
          )
          if (refused) expect(refused).toBeInstanceOf(PictureError)
          else expect(await tiffIsWhole(cut)).toBe(true)
        }),
        { numRuns: 25 },
      )
    }
  })
  it('that says more than it holds is refused before a decoder sees it', async () => {
    const bytes = await photo().tiff({ compression: 'none' }).toBuffer(),
      directory = bytes.readUInt32LE(4)
    for (let i = 0; i < bytes.readUInt16LE(directory); i++) {
      const entry = directory + 2 + i * 12
      if (bytes.readUInt16LE(entry) !== 279) continue
      const more = Buffer.from(bytes)
      more.writeUInt32LE(1, entry + 4)
      more.writeUInt32LE(0x7fffffff, entry + 8)
      expect(await tiffIsWhole(more)).toBe(false)
      await expect(checkPicture(more, 'more.tif')).rejects.toThrow(/damaged: it says more than it holds/)
    }
  })
})

describe('turns', () => {
  it('two work at a time, in the order they came, and one that fails makes room', async () => {
    let now = 0,
      most = 0
    const began: number[] = []
    const work = (n: number) =>
      inTurn(async () => {
        began.push(n)
        most = Math.max(most, ++now)
        await new Promise((resolve) => setTimeout(resolve, 2))
        now--
        if (n % 3 === 0) throw new Error('no')
      }).catch(() => {})
    await Promise.all(Array.from({ length: 12 }, (_, n) => work(n)))
    expect(most).toBe(2)
    expect(began).toEqual([...began].sort((a, b) => a - b))
  })
})
