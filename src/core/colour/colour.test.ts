import { converter } from 'culori'
import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { labDifferenceTo, labOf } from './lab'
import { labRow } from './labRow'
import { byteOfLinear, fromLinear, LINEAR_OF_BYTE, toLinear } from './srgb'

const byte = fc.integer({ min: 0, max: 255 })

describe('colour', () => {
  it('sRGB to linear light and back agrees with culori and is the identity on bytes', () => {
    const linear = converter('lrgb')
    for (let v = 0; v < 256; v++) {
      expect(toLinear(v / 255)).toBeCloseTo(linear({ mode: 'rgb', r: v / 255, g: 0, b: 0 }).r, 9)
      expect(fromLinear(toLinear(v / 255))).toBeCloseTo(v / 255, 9)
      expect(byteOfLinear(LINEAR_OF_BYTE[v])).toBe(v)
    }
  })
  it('CIELAB (D50) agrees with culori within 0.01', () => {
    const lab = converter('lab')
    fc.assert(
      fc.property(byte, byte, byte, (r, g, b) => {
        const [L, A, B] = labOf(r, g, b)
        const reference = lab({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 })
        expect(Math.abs(L - reference.l)).toBeLessThan(0.01)
        expect(Math.abs(A - reference.a)).toBeLessThan(0.01)
        expect(Math.abs(B - reference.b)).toBeLessThan(0.01)
      }),
    )
  })
  it('a row of any length is the same, and nothing beside it is written', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 0xffffff }), { minLength: 1, maxLength: 40 }),
        fc.nat(3),
        (words, at) => {
          const rows = [0, 1, 2].map(() => new Float32Array(words.length + 8).fill(-999)),
            source = Uint32Array.from([1, ...words])
          labRow(source, 1, words.length, rows[0], rows[1], rows[2], at)
          rows.forEach((row, channel) =>
            row.forEach((value, i) => {
              const word = words[i - at]
              if (word === undefined) expect(value).toBe(-999)
              else
                expect(Math.abs(value - labOf(word & 255, (word >> 8) & 255, word >> 16)[channel])).toBeLessThan(0.001)
            }),
          )
        },
      ),
    )
  })
  it('more pixels than are worked on at a time', () => {
    const words = Uint32Array.from({ length: 5000 }, (_, i) => (i * 7919) & 0xffffff),
      rows = [0, 1, 2].map(() => new Float32Array(5000))
    labRow(words, 0, 5000, rows[0], rows[1], rows[2])
    for (const i of [0, 1023, 1024, 4999])
      labOf(words[i] & 255, (words[i] >> 8) & 255, words[i] >> 16).forEach((value, channel) =>
        expect(rows[channel][i]).toBeCloseTo(value, 2),
      )
  })
  it('the quick difference for whole pictures stays within a quarter unit of the exact one', () => {
    fc.assert(
      fc.property(byte, byte, byte, byte, byte, byte, (r, g, b, R, G, B) => {
        const from = labOf(R, G, B),
          to = labOf(r, g, b)
        const quick = labDifferenceTo(from)(r | (g << 8) | (b << 16))
        expect(Math.abs(quick - Math.hypot(from[0] - to[0], from[1] - to[1], from[2] - to[2]))).toBeLessThan(0.25)
      }),
    )
  })
})
