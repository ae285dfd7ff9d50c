import { describe, expect, it } from 'vitest'
import { planckian, temperatureAt, temperatureOf } from './temperature'

const uvOf = (x: number, y: number): [number, number] => [
  (4 * x) / (-2 * x + 12 * y + 3),
  (6 * y) / (-2 * x + 12 * y + 3),
]

describe('colour temperature', () => {
  it('black bodies lie where CIE 15:2004 has them (x, y from memory)', () => {
    for (const [kelvin, x, y] of [
      [2000, 0.5267, 0.4133],
      [2856, 0.4476, 0.4074],
      [4000, 0.3805, 0.3768],
      [6500, 0.3135, 0.3237],
      [10000, 0.2807, 0.2884],
    ]) {
      const [u, v] = planckian(kelvin),
        [U, V] = uvOf(x, y)
      expect(Math.hypot(u - U, v - V), `${kelvin} K`).toBeLessThan(6e-4)
      expect(Math.abs(temperatureAt(U, V).kelvin / kelvin - 1), `${kelvin} K`).toBeLessThan(0.01)
    }
  })
  it('daylights have the correlated temperature that CIE 15:2004 names them by, and lie above the line', () => {
    for (const [kelvin, x, y] of [
      [5003, 0.3457, 0.3585],
      [5503, 0.3324, 0.3474],
      [6504, 0.3127, 0.329],
      [7504, 0.299, 0.3149],
    ]) {
      const found = temperatureAt(...uvOf(x, y))
      expect(Math.abs(found.kelvin / kelvin - 1), `${kelvin} K`).toBeLessThan(0.01)
      expect(found.tint).toBeGreaterThan(0.002)
      expect(found.tint).toBeLessThan(0.005)
    }
  })
  it('sRGB white is D65; black has none', () => {
    expect(Math.abs(temperatureOf(1, 1, 1)!.kelvin - 6504)).toBeLessThan(60)
    expect(temperatureOf(0, 0, 0)).toBeNull()
    expect(temperatureOf(1, 0.6, 0.3)!.kelvin).toBeLessThan(4000)
  })
})
