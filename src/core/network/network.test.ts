import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { KernelStack } from '../kernels'
import { type Picture } from '../raster/picture'
import { addContext, addDoubled, convolve, type Plane, takePlane, turned, turnedBytes } from './layers'
import { atEachPixel, likelihood } from './likelihood'
import { runNetwork } from './network'

const stack = new KernelStack()
const fill = (plane: Plane, values: Float32Array) => {
  for (let y = 0; y < plane.height; y++)
    stack
      .floats(plane.at + y * plane.row, plane.width * plane.channels)
      .set(values.subarray(y * plane.width * plane.channels, (y + 1) * plane.width * plane.channels))
}
const read = (plane: Plane) =>
  Float32Array.from(
    Array.from({ length: plane.height }, (_, y) => [
      ...stack.floats(plane.at + y * plane.row, plane.width * plane.channels),
    ]).flat(),
  )
const numbers = (count: number, seed: number) =>
  Float32Array.from({ length: count }, (_, i) => Math.fround(Math.sin(seed + 12.9898 * (i + 1)) * 2))

describe('the layers', () => {
  it('a convolution is the sum over neighbours and inputs by the book', () => {
    const cases = fc.record({
      width: fc.integer({ min: 4, max: 11 }),
      height: fc.integer({ min: 1, max: 6 }),
      few: fc.integer({ min: 1, max: 6 }),
      tiled: fc.boolean(),
      eights: fc.integer({ min: 1, max: 2 }),
      side: fc.constantFrom(1 as const, 3 as const),
      stride: fc.constantFrom(1, 2),
      rectify: fc.boolean(),
      added: fc.boolean(),
      seed: fc.integer({ min: 0, max: 1000 }),
    })
    fc.assert(
      fc.property(cases, ({ width, height, few, tiled, eights, side, stride, rectify, added, seed }) => {
        // Two by two px at once, where that can be.
        const inTiles = tiled && side === 3 && stride === 1
        const start = stack.take(0),
          inputs = inTiles ? 4 * few : few,
          outputs = 8 * eights,
          from = takePlane(stack, width * stride, height * stride, inputs),
          to = takePlane(stack, width, height, outputs),
          more = takePlane(stack, width, height, outputs)
        const values = numbers(from.width * from.height * inputs, seed),
          extra = numbers(width * height * outputs, seed + 1),
          weights = numbers(side * side * inputs * outputs, seed + 2),
          biases = numbers(outputs, seed + 3)
        const at = stack.take(weights.length * 4),
          bias = stack.take(outputs * 4),
          atTurned = stack.take(turnedBytes(inputs, outputs))
        fill(from, values)
        fill(more, extra)
        // In the kernel's order: eights of outputs, the px looked at, inputs, the output of the eight.
        const weight = (o: number, k: number, c: number) =>
          weights[(((o >> 3) * side * side + k) * inputs + c) * 8 + (o & 7)]
        stack.floats(at, weights.length).set(weights)
        stack.floats(bias, outputs).set(biases)
        const layer = { side, inputs, outputs, weights: at, bias }
        convolve(stack, from, inTiles ? turned(stack, layer, atTurned) : layer, to, {
          stride,
          rectify,
          more: added ? more : undefined,
        })
        const made = read(to)
        for (let y = 0, i = 0; y < height; y++)
          for (let x = 0; x < width; x++)
            for (let o = 0; o < outputs; o++, i++) {
              let sum = biases[o] + (added ? extra[i] : 0)
              for (let k = 0; k < side * side; k++) {
                const u = x * stride + (side === 3 ? (k % 3) - 1 : 0),
                  v = y * stride + (side === 3 ? Math.floor(k / 3) - 1 : 0)
                if (u < 0 || v < 0 || u >= from.width || v >= from.height) continue
                for (let c = 0; c < inputs; c++) sum += weight(o, k, c) * values[(v * from.width + u) * inputs + c]
              }
              expect(made[i]).toBeCloseTo(rectify ? Math.max(0, sum) : sum, 3)
            }
        stack.release(start)
      }),
      { numRuns: 90 },
    )
  })
  it('what was seen at half the size is added to two by two px, and what is below zero is cut off', () => {
    const start = stack.take(0),
      small = takePlane(stack, 2, 1, 8),
      large = takePlane(stack, 4, 2, 8)
    fill(
      small,
      Float32Array.from({ length: 16 }, (_, i) => (i < 8 ? 1 : -3)),
    )
    fill(large, new Float32Array(64).fill(1))
    addDoubled(stack, small, large)
    const made = read(large)
    for (let i = 0; i < 64; i++) expect(made[i]).toBe((i >> 3) % 4 < 2 ? 2 : 0)
    stack.release(start)
  })
  it('the context is the same for every px: what is said of the mean', () => {
    const start = stack.take(0),
      plane = takePlane(stack, 4, 2, 8),
      weights = stack.take(64 * 4),
      bias = stack.take(32)
    fill(
      plane,
      Float32Array.from({ length: 64 }, (_, i) => i % 8),
    )
    // Each output takes twice the input of its own number.
    stack.floats(weights, 64).set(Float32Array.from({ length: 64 }, (_, i) => (i >> 3 === (i & 7) ? 2 : 0)))
    stack.floats(bias, 8).fill(-1)
    addContext(stack, plane, { side: 1, inputs: 8, outputs: 8, weights, bias })
    read(plane).forEach((v, i) => expect(v).toBeCloseTo(Math.max(0, 3 * (i % 8) - 1), 5))
    stack.release(start)
  })
})

/** A light disc on a dark ground. */
function disc(width: number, height: number, x: number, y: number, radius: number): Picture {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < width * height; i++) {
    const inside = Math.hypot((i % width) - x, Math.floor(i / width) - y) < radius
    data.set(inside ? [200, 120, 60, 255] : [50, 70, 60, 255], 4 * i)
  }
  return { width, height, data }
}
const whole = (picture: Picture) => ({ x: 0, y: 0, width: picture.width, height: picture.height })

describe('the network', () => {
  it('takes a lone thing in a box for what is meant, and says the same each time', () => {
    const picture = disc(300, 200, 150, 100, 45),
      seen = likelihood(picture, whole(picture), { box: [95, 45, 205, 155] }),
      odds = atEachPixel(seen, picture, -9)
    expect(odds[100 * 300 + 150]).toBeGreaterThan(1)
    expect(odds[20 * 300 + 20]).toBeLessThan(-1)
    expect(likelihood(picture, whole(picture), { box: [95, 45, 205, 155] }).data).toEqual(seen.data)
  })
  it('a keep mark and a drop mark tell which of two is meant', () => {
    const one = disc(300, 200, 80, 100, 40),
      other = disc(300, 200, 220, 100, 40),
      both = { ...one, data: one.data.map((v, i) => Math.max(v, other.data[i])) }
    const odds = atEachPixel(
      likelihood(both, whole(both), {
        keep: [
          [80, 100],
          [70, 110],
        ],
        drop: [[220, 100]],
      }),
      both,
      -9,
    )
    expect(odds[100 * 300 + 80]).toBeGreaterThan(odds[100 * 300 + 220] + 2)
  })
  it('looks at parts of any shape, and has nothing to say beyond', () => {
    const picture = disc(200, 60, 100, 30, 20)
    for (const part of [
      { x: 10, y: 0, width: 180, height: 8 },
      { x: 0, y: 0, width: 5, height: 60 },
      { x: 50, y: 10, width: 1, height: 1 },
    ]) {
      const odds = atEachPixel(likelihood(picture, part, { keep: [[100, 30]] }), picture, -9)
      odds.forEach((v, i) => {
        const x = (i % 200) - part.x,
          y = Math.floor(i / 200) - part.y
        if (x < 0 || y < 0 || x >= part.width || y >= part.height) expect(v).toBe(-9)
        else expect(Number.isFinite(v)).toBe(true)
      })
    }
  })
  it('has as many answers as pixels', () => {
    expect(runNetwork(new Float32Array(64 * 80 * 6), 80, 64)).toHaveLength(64 * 80)
  })
})
