/** Water in the demo's pictures, and in none where there is none. */
import sharp from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'
import { water, waterSeen } from './water'

const WIDTH = 900
async function read(name: string): Promise<Picture> {
  const { data, info } = await sharp(`demo/pictures/${name}.jpg`)
    .resize(WIDTH)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) }
}
const asked = parseStep({ kind: 'water' })

describe('water', () => {
  let quay: Picture, evening: Picture, puppet: Picture
  beforeAll(async () => {
    ;[quay, evening, puppet] = await Promise.all(['lantern-quay', 'sky-amber', 'otter-puppet'].map(read))
  })
  it('is found before the quay, without what stands above it, and of what is transparent no more than its rim', () => {
    const { data, height } = foldSteps([asked], sceneOf(quay), plainContext()),
      share = (from: number, to: number) =>
        data.subarray(from * WIDTH, to * WIDTH).reduce((sum, v) => sum + v, 0) / (255 * WIDTH * (to - from))
    expect(share(Math.round(0.77 * height), height)).toBeGreaterThan(0.8)
    expect(share(0, Math.round(0.6 * height))).toBeLessThan(0.01)
    const hole = { ...quay, data: quay.data.map((v, i) => (i % 4 === 3 && (i >> 2) % WIDTH < 300 ? 0 : v)) },
      there = foldSteps([asked], sceneOf(hole), plainContext()).data
    expect(there.some((v, i) => v > 0 && i % WIDTH < 296)).toBe(false)
  })
  it('is seen for sure or perhaps; not where there is none, nor without the network', () => {
    const seen = (picture: Picture) => waterSeen(sceneOf(picture), 'layer', plainContext())
    expect(seen(quay).looks).toBeGreaterThan(0.2)
    expect(seen(evening).sure).toBeGreaterThan(0.1)
    expect(seen(puppet)).toEqual({ looks: 0, sure: 0 })
    expect(waterSeen(sceneOf(quay), 'layer', { ...plainContext(), network: false })).toEqual({ looks: 0, sure: 0 })
  })
  it('says why where it finds nothing', () => {
    const why = (context = plainContext()) => water.find(sceneOf(puppet), { ...asked } as never, context)
    expect(why()).toMatchObject({ note: 'Nothing found, because nothing in it looks like water.' })
    expect(why({ ...plainContext(), network: false })).toMatchObject({
      note: 'Nothing found, because only the network knows water, and it is switched off.',
    })
  })
})
