/** The error measures against 3×3 examples worked by hand, after the definitions of Rhemann et al. 2009, section 5. */
import { describe, expect, it } from 'vitest'
import { type Matte } from '../raster/picture'
import { matteErrors } from './errors'

const matte = (...rows: number[][]): Matte => ({
  width: rows[0].length,
  height: rows.length,
  data: Uint8Array.from(rows.flat()),
})
const FULL = matte([255, 255, 255], [255, 255, 255], [255, 255, 255]),
  EMPTY = matte([0, 0, 0], [0, 0, 0], [0, 0, 0])

describe('errors of a matte', () => {
  it('are none against itself', () => {
    const some = matte([0, 51, 255], [0, 102, 255], [0, 153, 255])
    expect(matteErrors(some, some)).toEqual({ sad: 0, mse: 0, gradient: 0, connectivity: 0, iou: 1, pixels: 9 })
    expect(matteErrors(EMPTY, EMPTY).iou).toBe(1)
  })
  it('one pixel of nine off by 51 of 255: 0.2 in all, 0.04 / 9 squared', () => {
    const found = matteErrors(matte([255, 255, 255], [255, 204, 255], [255, 255, 255]), FULL)
    expect(found.sad * 1000).toBeCloseTo(0.2, 6)
    expect(found.mse).toBeCloseTo(0.04 / 9, 6)
    expect(found.iou).toBe(1)
  })
  it('only what the trimap leaves open is looked at, by all but the intersection over union', () => {
    const found = matteErrors(
      matte([0, 0, 255], [0, 0, 255], [0, 0, 255]),
      matte([255, 0, 255], [0, 0, 255], [0, 0, 255]),
      matte([0, 128, 255], [0, 128, 255], [0, 128, 255]),
    )
    expect(found).toMatchObject({ sad: 0, mse: 0, pixels: 3 })
    expect(found.iou).toBeCloseTo(3 / 4, 9)
  })
  it('a piece that does not hang together with what is full in both costs what lies above it', () => {
    // Full in both: the left column. The right column is full in the matte alone, and empty in the truth: nothing holds it.
    const found = matteErrors(
      matte([255, 0, 255], [255, 0, 255], [255, 0, 255]),
      matte([255, 0, 0], [255, 0, 0], [255, 0, 0]),
    )
    expect(found.connectivity * 1000).toBeCloseTo(3, 5) // the matte's three pixels hold 1 − 1 = 0, the truth's 1
  })
  it('what hangs together up to a level costs only what lies above that level, from 0.15 on', () => {
    // Beside full pixels the middle one is 0.8 in the matte and 0.6 in the truth: both hold up to 0.6. Above it: 0.2 in the matte (counts), 0 in the truth.
    const found = matteErrors(
      matte([255, 255, 255], [255, 204, 255], [255, 255, 255]),
      matte([255, 255, 255], [255, 153, 255], [255, 255, 255]),
    )
    expect(found.connectivity * 1000).toBeCloseTo(0.2, 5)
    // 0.1 above is none.
    expect(
      matteErrors(
        matte([255, 255, 255], [255, 178, 255], [255, 255, 255]),
        matte([255, 255, 255], [255, 153, 255], [255, 255, 255]),
      ).connectivity,
    ).toBe(0)
  })
  it('a flat difference has no gradient; a step beside none has one, by the derivative of a Gaussian', () => {
    expect(matteErrors(FULL, EMPTY).gradient).toBeCloseTo(0, 12)
    const wide = (edge: number): Matte => ({
      width: 40,
      height: 21,
      data: Uint8Array.from({ length: 40 * 21 }, (_, i) => (i % 40 < edge ? 255 : 0)),
    })
    const found = matteErrors(wide(20), { ...wide(20), data: new Uint8Array(40 * 21) })
    // Across a step the filtered slope is the Gaussian itself, times the column's sum: Σ (Σ g · g(x) / n)² over the row, 21 rows.
    const gauss = Array.from({ length: 9 }, (_, k) => Math.exp(-((k - 4) ** 2) / (2 * 1.4 ** 2))),
      slope = gauss.map((g, k) => (k - 4) * g),
      unit = Math.sqrt(gauss.reduce((s, v) => s + v * v, 0) * slope.reduce((s, v) => s + v * v, 0)),
      sum = gauss.reduce((s, v) => s + v, 0)
    let row = 0
    for (let k = 0; k < 8; k++) row += ((slope.slice(k + 1).reduce((s, v) => s + v, 0) * sum) / unit) ** 2
    expect(found.gradient * 1000).toBeCloseTo(21 * row, 3)
  })
  it('sizes that differ are refused', () => {
    expect(() => matteErrors(FULL, matte([0, 0]))).toThrow(RangeError)
  })
})
