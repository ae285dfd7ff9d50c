/** The solvers on pictures whose matte is known, and the published properties of the matting Laplacian (Levin, Lischinski and Weiss 2008, section 3). */
import { describe, expect, it } from 'vitest'
import { type Picture } from '../raster/picture'
import { solveClosedForm } from './closedForm'
import { solveBySampling } from './sampling'
import { solveUnknown, SOLVERS } from './solveUnknown'

const WIDTH = 48, HEIGHT = 30, F = [200, 120, 60], B = [40, 70, 130]
/** Coverage of a soft straight edge: a ramp of 12 px, slanted. */
const truthAt = (x: number, y: number) => Math.max(0, Math.min(1, (x + 0.3 * y - 18) / 12))
const mix = (at: (x: number, y: number) => number, shade = (x: number, y: number, c: number) => { void x; void y; void c; return 0 }): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) { const a = at(x, y), o = (y * WIDTH + x) * 4; for (let c = 0; c < 3; c++) data[o + c] = a * F[c] + (1 - a) * B[c] + shade(x, y, c); data[o + 3] = 255 }
  return { width: WIDTH, height: HEIGHT, data }
}
/** Known where it is 0 or 1, and 128 as a first guess between. */
const trimap = () => { const unknown = new Uint8Array(WIDTH * HEIGHT), alpha = new Uint8Array(WIDTH * HEIGHT); for (let i = 0; i < alpha.length; i++) { const t = truthAt(i % WIDTH, Math.floor(i / WIDTH)); unknown[i] = t > 0 && t < 1 ? 1 : 0; alpha[i] = unknown[i] ? 128 : t * 255 } return { unknown, alpha } }
const worst = (alpha: Uint8Array) => alpha.reduce((most, v, i) => Math.max(most, Math.abs(v / 255 - truthAt(i % WIDTH, Math.floor(i / WIDTH)))), 0)

describe('the closed form', () => {
  it('recovers a soft edge between two colours within 0.02', () => {
    const { unknown, alpha } = trimap()
    solveClosedForm(mix(truthAt), unknown, alpha)
    expect(worst(alpha)).toBeLessThan(0.02)
  })
  it('and between two shaded surfaces, whose colours change as affine functions of the place', () => {
    const { unknown, alpha } = trimap()
    solveClosedForm(mix(truthAt, (x, y, c) => 0.3 * x + 0.2 * y * (c - 1)), unknown, alpha)
    expect(worst(alpha)).toBeLessThan(0.06)
  })
  it('annihilates constants: what is surrounded by one coverage takes it, whatever the colours', () => {
    const noisy = mix((x, y) => ((x * 31 + y * 17) % 13) / 13), unknown = new Uint8Array(WIDTH * HEIGHT), alpha = new Uint8Array(WIDTH * HEIGHT).fill(200)
    for (let y = 8; y < 20; y++) for (let x = 10; x < 36; x++) { unknown[y * WIDTH + x] = 1; alpha[y * WIDTH + x] = 40 }
    solveClosedForm(noisy, unknown, alpha)
    for (const v of alpha) expect(Math.abs(v - 200)).toBeLessThanOrEqual(1)
  })
  it('annihilates affine functions of colour: a matte that is one is recovered from its surround', () => {
    const colours = mix((x, y) => 0.5 + 0.5 * Math.sin(x / 3) * Math.cos(y / 4)), unknown = new Uint8Array(WIDTH * HEIGHT)
    const truth = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => (255 * (colours.data[i * 4] - B[0])) / (F[0] - B[0])), alpha = truth.slice()
    for (let y = 6; y < 22; y++) for (let x = 8; x < 40; x++) { unknown[y * WIDTH + x] = 1; alpha[y * WIDTH + x] = 0 }
    solveClosedForm(colours, unknown, alpha)
    for (let i = 0; i < alpha.length; i++) expect(Math.abs(alpha[i] - truth[i])).toBeLessThanOrEqual(4)
  })
})

describe('sampling', () => {
  it('finds the coverage of pixels between two colours, mixed in linear light', () => {
    const linear = (v: number) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4), encode = (v: number) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055) // IEC 61966-2-1
    const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
    for (let i = 0; i < WIDTH * HEIGHT; i++) { const a = truthAt(i % WIDTH, Math.floor(i / WIDTH)); for (let c = 0; c < 3; c++) data[i * 4 + c] = Math.round(encode(a * linear(F[c]) + (1 - a) * linear(B[c]))); data[i * 4 + 3] = 255 }
    const { unknown, alpha } = trimap()
    solveBySampling({ width: WIDTH, height: HEIGHT, data }, unknown, alpha)
    expect(worst(alpha)).toBeLessThan(0.03)
  })
})

it.each(SOLVERS)('%s leaves what is known untouched, and does nothing where all is', (solver) => {
  const { unknown, alpha } = trimap(), before = alpha.slice()
  solveUnknown(mix(truthAt), { width: WIDTH, height: HEIGHT, data: alpha }, unknown, solver, () => {})
  for (let i = 0; i < alpha.length; i++) if (!unknown[i]) expect(alpha[i]).toBe(before[i])
  const all = before.slice()
  solveUnknown(mix(truthAt), { width: WIDTH, height: HEIGHT, data: all }, new Uint8Array(all.length), solver, () => {})
  expect(all).toEqual(before)
})
