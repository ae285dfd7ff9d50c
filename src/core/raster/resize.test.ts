import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { type DeepPicture, type Picture } from './picture'
import { resize } from './resize'

const drawn = (width: number, height: number, alpha: (x: number) => number = () => 255): Picture => ({
  width,
  height,
  data: new Uint8ClampedArray(
    Array.from({ length: width * height }, (_, i) => {
      const x = i % width,
        y = Math.floor(i / width)
      return [128 + 90 * Math.sin(x / 7), 128 + 90 * Math.cos(y / 5 + x / 19), x > width / 2 ? 240 : 20, alpha(x)]
    }).flat(),
  ),
})

describe('resizing', () => {
  // libvips reduces in two steps, a box and then the kernel, and enlarges by another one: reductions are compared, and not to the last step.
  it.each([
    [64, 48],
    [37, 91],
    [150, 20],
  ])('to %d × %d it agrees with libvips’ Lanczos (sharp) within six steps, one on average', async (width, height) => {
    const from = drawn(160, 120)
    const reference = await sharp(from.data, { raw: { width: 160, height: 120, channels: 4 } })
      .resize(width, height, { fit: 'fill', kernel: 'lanczos3', fastShrinkOnLoad: false })
      .raw()
      .toBuffer()
    const ours = resize(from, { width, height }, true).data
    let worst = 0,
      sum = 0
    ours.forEach((v, i) => {
      const d = Math.abs(v - reference[i])
      worst = Math.max(worst, d)
      sum += d
    })
    expect(sum / ours.length).toBeLessThan(1)
    expect(worst).toBeLessThanOrEqual(6)
  })
  it('enlarged, a smooth picture lies where its formula says', () => {
    const wave = (x: number, y: number) => 128 + 60 * Math.sin(x / 9) + 50 * Math.cos(y / 11)
    const from: Picture = {
      width: 80,
      height: 60,
      data: new Uint8ClampedArray(
        Array.from({ length: 4800 }, (_, i) => {
          const v = wave((i % 80) + 0.5, Math.floor(i / 80) + 0.5)
          return [v, v, v, 255]
        }).flat(),
      ),
    }
    const large = resize(from, { width: 200, height: 150 }, true)
    for (let y = 10; y < 140; y++)
      for (let x = 10; x < 190; x++)
        expect(Math.abs(large.data[(y * 200 + x) * 4] - wave((x + 0.5) * 0.4, (y + 0.5) * 0.4))).toBeLessThan(2)
  })
  it('to its own size a picture stays as it is; flat colour stays flat, and clear pixels lend no colour', () => {
    const from = drawn(60, 40, (x) => (x < 30 ? 0 : 255))
    const same = resize(from, from)
    for (let i = 0; i < same.data.length; i += 4)
      if (from.data[i + 3]) expect([...same.data.subarray(i, i + 4)]).toEqual([...from.data.subarray(i, i + 4)])
    const flat: Picture = {
      width: 50,
      height: 50,
      data: new Uint8ClampedArray(50 * 50 * 4).map((_, i) => [200, 100, 50, 255][i % 4]),
    }
    expect(new Set(resize(flat, { width: 17, height: 81 }).data)).toEqual(new Set([200, 100, 50, 255]))
    const half: Picture = {
      width: 50,
      height: 50,
      data: new Uint8ClampedArray(50 * 50 * 4).map(
        (_, i) => (Math.floor(i / 4) % 50 < 25 ? [0, 255, 0, 0] : [200, 100, 50, 255])[i % 4],
      ),
    }
    const small = resize(half, { width: 11, height: 11 }).data
    for (let i = 0; i < small.length; i += 4)
      if (small[i + 3] > 8) expect(Math.abs(small[i] - 200)).toBeLessThanOrEqual(2)
  })
  it('in 16 bits it is the same picture, and finer than 8 bits can tell', () => {
    const from = drawn(160, 120, (x) => 40 + x),
      deep: DeepPicture = { width: 160, height: 120, data: Uint16Array.from(from.data, (v) => v * 257) },
      small = resize(from, { width: 61, height: 47 }),
      fine = resize(deep, { width: 61, height: 47 })
    const off = fine.data.reduce((worst, v, i) => Math.max(worst, Math.abs(v / 257 - small.data[i])), 0)
    expect(off).toBeLessThanOrEqual(0.51) // half a step, and what floats round
    expect(fine.data.some((v) => v % 257 !== 0)).toBe(true)
  })
  it('one pixel is the mean, and sizes must be whole', () => {
    expect(Math.abs(resize(drawn(90, 60), { width: 1, height: 1 }).data[2] - 130)).toBeLessThan(6)
    expect(() => resize(drawn(4, 4), { width: 0, height: 3 })).toThrow('whole pixels')
  })
})
