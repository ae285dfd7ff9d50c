import { describe, expect, it } from 'vitest'
import { gaussianBlur, gaussianKernel } from './gaussian'
import { emptyMatte, type Matte } from './picture'

/** Gaussian integral Φ by Abramowitz and Stegun 26.2.17 (error below 7.5e-8). */
function normalCdf(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x))
  const tail =
    (Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  return x > 0 ? 1 - tail : tail
}
const halfPlane = (width: number, height: number, edge: number): Matte => {
  const matte = emptyMatte({ width, height })
  for (let y = 0; y < height; y++) for (let x = 0; x < edge; x++) matte.data[y * width + x] = 255
  return matte
}

describe('Gaussian blur of a matte', () => {
  it.each([0.6, 1, 2, 2.9, 3, 3.1, 4, 6.5, 10, 17, 25, 50])(
    'a straight edge blurred with sigma %s follows the Gaussian integral as near as whole pixels allow',
    (sigma) => {
      const width = Math.ceil(sigma * 8) + 41,
        edge = Math.floor(width / 2)
      const blurred = gaussianBlur(halfPlane(width, 9, edge), sigma)
      let worst = 0 // A sampled kernel on whole pixels is off by up to g'(1 sigma)/24 of an aligned edge (Euler-Maclaurin), 2.6/255 at sigma 1.
      for (let x = 0; x < width; x++)
        worst = Math.max(worst, Math.abs(blurred.data[4 * width + x] - 255 * normalCdf((edge - x - 0.5) / sigma)))
      expect(worst).toBeLessThan(Math.max(1.5, 3.5 / (sigma * sigma)))
    },
  )
  it('keeps a constant matte and a selection that touches the border as they are', () => {
    for (const sigma of [1, 5, 40]) {
      expect(
        gaussianBlur({ width: 37, height: 21, data: new Uint8Array(37 * 21).fill(255) }, sigma).data.every(
          (v) => v === 255,
        ),
      ).toBe(true)
    }
  })
  it('keeps the mean of a small spot (the kernel sums to one)', () => {
    const matte = emptyMatte({ width: 401, height: 401 })
    for (let y = 180; y < 221; y++) for (let x = 180; x < 221; x++) matte.data[y * 401 + x] = 255
    for (const sigma of [2, 10, 20]) {
      const total = gaussianBlur(matte, sigma).data.reduce((s, v) => s + v, 0)
      expect(total / (41 * 41 * 255)).toBeCloseTo(1, 1)
    }
  })
  it('is as wide as asked in both directions: variance of an impulse response', () => {
    const size = 301
    for (const sigma of [4, 9, 14]) {
      const matte = emptyMatte({ width: size, height: size })
      for (let y = 140; y < 161; y++) for (let x = 140; x < 161; x++) matte.data[y * size + x] = 255
      const out = gaussianBlur(matte, sigma).data
      let n = 0,
        xx = 0,
        yy = 0
      for (let y = 0; y < size; y++)
        for (let x = 0; x < size; x++) {
          const v = out[y * size + x]
          n += v
          xx += v * (x - 150) ** 2
          yy += v * (y - 150) ** 2
        }
      const box = (21 * 21) / 12
      expect(Math.sqrt(xx / n - box)).toBeCloseTo(sigma, 0)
      expect(Math.sqrt(yy / n - box)).toBeCloseTo(sigma, 0)
    }
  })
  it('handles a 1×1 matte, a single row, and refuses a negative sigma in words', () => {
    expect(gaussianBlur({ width: 1, height: 1, data: Uint8Array.of(200) }, 30).data[0]).toBe(200)
    expect(gaussianBlur({ width: 5, height: 1, data: Uint8Array.of(9, 9, 9, 9, 9) }, 2).data).toEqual(
      Uint8Array.of(9, 9, 9, 9, 9),
    )
    expect(() => gaussianBlur(emptyMatte({ width: 2, height: 2 }), -1)).toThrow('0 px or more, not -1')
    expect(Array.from(gaussianKernel(2)).reduce((s, w, i) => s + (i ? 2 * w : w), 0)).toBeCloseTo(1, 5)
  })
})
