/** The solvers on pictures whose matte is known, and the published properties of the matting Laplacian (Levin, Lischinski and Weiss 2008, section 3). */
import { describe, expect, it } from 'vitest'
import { type Picture } from '../raster/picture'
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { solveClosedForm } from './closedForm'
import { type Level } from './level'
import { localColours } from './localColours'
import { noiseOf } from './noise'
import { roomForSamples, sampledCoverage, wayToKnown } from './sampling'
import { SOLVERS } from '../fields/solver'
import { solveUnknown } from './solveUnknown'

const WIDTH = 48,
  HEIGHT = 30,
  F = [200, 120, 60],
  B = [40, 70, 130]
/** Coverage of a soft straight edge: a ramp of 12 px, slanted. */
const truthAt = (x: number, y: number) => Math.max(0, Math.min(1, (x + 0.3 * y - 18) / 12))
const mix = (
  at: (x: number, y: number) => number,
  shade = (x: number, y: number, c: number) => {
    void x
    void y
    void c
    return 0
  },
): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const a = at(x, y),
        o = (y * WIDTH + x) * 4
      for (let c = 0; c < 3; c++)
        data[o + c] = byteOfLinear(a * LINEAR_OF_BYTE[F[c]] + (1 - a) * LINEAR_OF_BYTE[B[c]] + shade(x, y, c))
      data[o + 3] = 255
    }
  return { width: WIDTH, height: HEIGHT, data }
}
/** Known where it is 0 or 1, and 128 as a first guess between. */
const trimap = () => {
  const unknown = new Uint8Array(WIDTH * HEIGHT),
    alpha = new Uint8Array(WIDTH * HEIGHT)
  for (let i = 0; i < alpha.length; i++) {
    const t = truthAt(i % WIDTH, Math.floor(i / WIDTH))
    unknown[i] = t > 0 && t < 1 ? 1 : 0
    alpha[i] = unknown[i] ? 128 : t * 255
  }
  return { unknown, alpha }
}
/** The closed form by itself, with nothing believed and one hold for all. */
const solve = (picture: Picture, unknown: Uint8Array, alpha: Uint8Array, epsilon = 1e-7, rounds = 2000) => {
  const level: Level = { picture, unknown, alpha: Float32Array.from(alpha, (v) => v / 255) },
    zero = new Float32Array(alpha.length)
  solveClosedForm(level, { epsilon: zero.map(() => epsilon), belief: zero, weight: zero }, rounds)
  level.alpha.forEach((v, i) => {
    if (unknown[i]) alpha[i] = v * 255 + 0.5
  })
}
const worst = (alpha: Uint8Array) =>
  alpha.reduce((most, v, i) => Math.max(most, Math.abs(v / 255 - truthAt(i % WIDTH, Math.floor(i / WIDTH)))), 0)

describe('the closed form', () => {
  it('recovers a soft edge between two colours within 0.02', () => {
    const { unknown, alpha } = trimap()
    solve(mix(truthAt), unknown, alpha)
    expect(worst(alpha)).toBeLessThan(0.02)
  })
  it('and between two shaded surfaces, whose colours change as affine functions of the place', () => {
    const { unknown, alpha } = trimap()
    solve(
      mix(truthAt, (x, y, c) => 0.001 * x + 0.0007 * y * (c - 1)),
      unknown,
      alpha,
    )
    expect(worst(alpha)).toBeLessThan(0.06)
  })
  it('annihilates constants: what is surrounded by one coverage takes it, whatever the colours', () => {
    const noisy = mix((x, y) => ((x * 31 + y * 17) % 13) / 13),
      unknown = new Uint8Array(WIDTH * HEIGHT),
      alpha = new Uint8Array(WIDTH * HEIGHT).fill(200)
    for (let y = 8; y < 20; y++)
      for (let x = 10; x < 36; x++) {
        unknown[y * WIDTH + x] = 1
        alpha[y * WIDTH + x] = 40
      }
    solve(noisy, unknown, alpha)
    for (const v of alpha) expect(Math.abs(v - 200)).toBeLessThanOrEqual(1)
  })
  it('annihilates affine functions of colour: a matte that is one is recovered from its surround', () => {
    const colours = mix((x, y) => 0.5 + 0.5 * Math.sin(x / 3) * Math.cos(y / 4)),
      unknown = new Uint8Array(WIDTH * HEIGHT)
    const truth = Uint8Array.from(
        { length: WIDTH * HEIGHT },
        (_, i) =>
          (255 * (LINEAR_OF_BYTE[colours.data[i * 4]] - LINEAR_OF_BYTE[B[0]])) /
          (LINEAR_OF_BYTE[F[0]] - LINEAR_OF_BYTE[B[0]]),
      ),
      alpha = truth.slice()
    for (let y = 6; y < 22; y++)
      for (let x = 8; x < 40; x++) {
        unknown[y * WIDTH + x] = 1
        alpha[y * WIDTH + x] = 0
      }
    solve(colours, unknown, alpha)
    expect(alpha.reduce((worst, v, i) => Math.max(worst, Math.abs(v - truth[i])), 0)).toBeLessThanOrEqual(4)
  })
})

/** A trimap's level: the first guess in the middle. */
const levelOf = (picture: Picture): Level => {
  const { unknown, alpha } = trimap()
  return { picture, unknown, alpha: Float32Array.from(alpha, (v, i) => (unknown[i] ? 0.5 : v / 255)) }
}

describe('what colours say', () => {
  it('samples tell the coverage of pixels between two colours, mixed in linear light, and are sure of it', () => {
    const level = levelOf(mix(truthAt)),
      samples = roomForSamples(level.picture, (length) => new Float32Array(length)),
      { coverage, sure } = samples
    sampledCoverage(level, wayToKnown(level.unknown, level.picture), samples)
    for (let i = 0; i < coverage.length; i++)
      if (level.unknown[i]) {
        expect(Math.abs(coverage[i] - truthAt(i % WIDTH, Math.floor(i / WIDTH)))).toBeLessThan(0.03)
        expect(sure[i]).toBeGreaterThan(0.5)
      }
  })
  it('so do local Gaussians, with a precision that falls as grain grows', () => {
    const level = levelOf(mix(truthAt)),
      found = localColours(level)
    for (let i = 0; i < level.alpha.length; i++)
      if (level.unknown[i])
        expect(Math.abs(found.coverage[i] - truthAt(i % WIDTH, Math.floor(i / WIDTH)))).toBeLessThan(0.03)
    const grainy = localColours(levelOf(mix(truthAt, (x, y, c) => 0.1 * Math.sin(91 * x + 37 * y + 53 * c)))),
      middle = level.unknown.findIndex(
        (u, i) => u === 1 && Math.abs(truthAt(i % WIDTH, Math.floor(i / WIDTH)) - 0.5) < 0.05,
      )
    expect(grainy.precision[middle]).toBeLessThan(found.precision[middle] / 10)
  })
  it('where a side is known nowhere they say nothing', () => {
    const level = levelOf(mix(truthAt)),
      blind = { ...level, alpha: level.alpha.map((v) => (v === 0 ? 0.3 : v)) }
    expect(localColours(blind).precision.every((p) => p === 0)).toBe(true)
  })
  it('grain is measured where it is calm: its variance within a fifth, beside a hard edge', () => {
    let seed = 7
    const uniform = () => {
      seed = (seed * 1103515245 + 12345) & 0x7fffffff
      return seed / 0x7fffffff - 0.5
    }
    const width = 120,
      height = 90,
      data = new Uint8ClampedArray(width * height * 4)
    for (let i = 0; i < width * height; i++) {
      for (let c = 0; c < 3; c++) data[4 * i + c] = byteOfLinear((i % width < 30 ? 0.1 : 0.5) + 0.1 * uniform())
      data[4 * i + 3] = 255
    }
    const found = noiseOf({ width, height, data }, new Uint8Array(width * height).fill(1))
    expect(found).toBeGreaterThan(0.5 * (0.01 / 12)) // the calmest tenth of windows of nine lies below the mean of them all
    expect(found).toBeLessThan(1.2 * (0.01 / 12))
  })
})

it.each(SOLVERS)('%s recovers a straight soft edge of two colours within 0.02, however large the picture', (solver) => {
  // Two hundred times as many unknown pixels as above: several levels.
  const width = 900,
    height = 400,
    at = (x: number, y: number) => Math.max(0, Math.min(1, (x + 0.3 * y - 400) / 60)),
    data = new Uint8ClampedArray(width * height * 4),
    unknown = new Uint8Array(width * height),
    alpha = new Uint8Array(width * height)
  for (let i = 0; i < alpha.length; i++) {
    const a = at(i % width, Math.floor(i / width))
    for (let c = 0; c < 3; c++)
      data[4 * i + c] = byteOfLinear(a * LINEAR_OF_BYTE[F[c]] + (1 - a) * LINEAR_OF_BYTE[B[c]])
    data[4 * i + 3] = 255
    unknown[i] = a > 0 && a < 1 ? 1 : 0
    alpha[i] = unknown[i] ? 128 : a * 255
  }
  const progress: number[] = []
  solveUnknown({ width, height, data }, { width, height, data: alpha }, unknown, solver, {
    check: (p) => progress.push(p),
  })
  const worst = alpha.reduce(
    (most, v, i) => Math.max(most, Math.abs(v / 255 - at(i % width, Math.floor(i / width)))),
    0,
  )
  expect(worst).toBeLessThan(0.02)
  expect(progress.every((p, i) => p >= 0 && p <= 1 && (i === 0 || p >= progress[i - 1] - 1e-9))).toBe(true)
})

it('giving up leaves the matte as it was', () => {
  const { unknown, alpha } = trimap(),
    before = alpha.slice()
  expect(() =>
    solveUnknown(mix(truthAt), { width: WIDTH, height: HEIGHT, data: alpha }, unknown, 'closedForm', {
      check: () => {
        throw new Error('stop')
      },
    }),
  ).toThrow('stop')
  expect(alpha).toEqual(before)
})

it.each(SOLVERS)('%s leaves what is known untouched, and does nothing where all is', (solver) => {
  const { unknown, alpha } = trimap(),
    before = alpha.slice()
  solveUnknown(mix(truthAt), { width: WIDTH, height: HEIGHT, data: alpha }, unknown, solver, { check: () => {} })
  expect(alpha.every((v, i) => unknown[i] || v === before[i])).toBe(true)
  const all = before.slice()
  solveUnknown(mix(truthAt), { width: WIDTH, height: HEIGHT, data: all }, new Uint8Array(all.length), solver, {
    check: () => {},
  })
  expect(all).toEqual(before)
})
