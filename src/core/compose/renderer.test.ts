import fc from '../../../tests/properties'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { IDENTITY, rotation, scaling, translation, compose } from '../raster/affine'
import { mattePyramid, picturePyramid } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'
import { type Node, type PictureNode } from './nodes'
import { composeRegion } from './composeRegion'
import { Renderer } from './renderer'

const SIZE = 8
const picture = (data: Uint8Array, opaque = false): Picture => {
  const pixels = new Uint8ClampedArray(data)
  if (opaque) for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255
  return { width: SIZE, height: SIZE, data: pixels }
}
const bytes = fc.uint8Array({ minLength: SIZE * SIZE * 4, maxLength: SIZE * SIZE * 4 })
const layer = (p: Picture, more: Partial<PictureNode> = {}): PictureNode => ({
  kind: 'picture',
  picture: { levels: picturePyramid(p, false), opaque: false },
  toCanvas: IDENTITY,
  opacity: 1,
  ...more,
})
const whole = { level: 0, x: 0, y: 0, width: SIZE, height: SIZE }

describe('composing layers', () => {
  it('source-over follows the W3C formula (Compositing Level 1, 9.1.4) within half a step of the premultiplied value', () => {
    fc.assert(
      fc.property(bytes, bytes, fc.double({ min: 0, max: 1, noNaN: true }), (below, above, opacity) => {
        const out = composeRegion([layer(picture(below)), layer(picture(above), { opacity })], whole).data
        for (let i = 0; i < out.length; i += 4) {
          const as = (above[i + 3] / 255) * opacity,
            ab = below[i + 3] / 255,
            ao = as + ab * (1 - as)
          expect(Math.abs(out[i + 3] - 255 * ao)).toBeLessThan(0.51)
          if (ao > 0.02)
            for (let c = 0; c < 3; c++)
              expect(Math.abs(out[i + c] - (above[i + c] * as + below[i + c] * ab * (1 - as)) / ao)).toBeLessThan(0.51)
        }
      }),
    )
  })
  it('source-over over an opaque picture agrees with libvips (sharp) within one step', async () => {
    const below = Uint8Array.from({ length: SIZE * SIZE * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 37) % 256)),
      above = Uint8Array.from({ length: SIZE * SIZE * 4 }, (_, i) => (i * 91 + 13) % 256)
    const raw = { raw: { width: SIZE, height: SIZE, channels: 4 as const } }
    const reference = await sharp(below, raw)
      .composite([{ input: Buffer.from(above), ...raw, blend: 'over' }])
      .raw()
      .toBuffer()
    const out = composeRegion([layer(picture(below)), layer(picture(above))], whole).data
    expect(out.every((v, i) => Math.abs(v - reference[i]) <= 1)).toBe(true)
  })
  it('a mask shows and hides; half coverage is half opacity; outside the mask nothing shows', () => {
    const p = picture(new Uint8Array(SIZE * SIZE * 4).fill(200), true)
    const matte: Matte = {
      width: SIZE,
      height: SIZE,
      data: Uint8Array.from({ length: 64 }, (_, i) => [0, 128, 255][i % 3]),
    }
    const out = composeRegion(
      [layer(p, { mask: { levels: mattePyramid(matte), toCanvas: translation(2, 0) } })],
      whole,
    ).data
    for (let y = 0; y < SIZE; y++)
      for (let x = 0; x < SIZE; x++) expect(out[(y * SIZE + x) * 4 + 3]).toBe(x < 2 ? 0 : matte.data[y * SIZE + x - 2])
  })
  it('shifted by parts of a pixel it is what a map that scales by next to nothing makes, cubic and bilinear', () => {
    const part = fc.double({ min: -9, max: 9, noNaN: true }),
      all = { level: 0, x: -2, y: -2, width: 12, height: 12 }
    fc.assert(
      fc.property(bytes, part, part, fc.constantFrom(0, 1), (data, dx, dy, level) => {
        const drawn = (toCanvas: PictureNode['toCanvas']) =>
          composeRegion([layer(picture(data), { toCanvas })], { ...all, level }).data
        const shifted = drawn(translation(dx, dy)),
          scaled = drawn(compose(translation(dx, dy), scaling(1 + 1e-7)))
        for (let i = 0; i < shifted.length; i += 4) {
          expect(Math.abs(shifted[i + 3] - scaled[i + 3])).toBeLessThanOrEqual(1)
          // Where hardly anything shows, a step of alpha is many of colour.
          if (shifted[i + 3] > 100)
            for (let c = 0; c < 3; c++) expect(Math.abs(shifted[i + c] - scaled[i + c])).toBeLessThanOrEqual(2)
        }
      }),
    )
  })
  it('whole-pixel shifts copy exactly; a half turn twice gives the picture back', () => {
    fc.assert(
      fc.property(bytes, fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), (data, dx, dy) => {
        const p = picture(data, true),
          out = composeRegion([layer(p, { toCanvas: translation(dx, dy) })], whole).data
        for (let y = 0; y < SIZE; y++)
          for (let x = 0; x < SIZE; x++) {
            const inside = x - dx >= 0 && y - dy >= 0 && x - dx < SIZE && y - dy < SIZE
            for (let c = 0; c < 4; c++)
              expect(out[(y * SIZE + x) * 4 + c]).toBe(inside ? p.data[((y - dy) * SIZE + x - dx) * 4 + c] : 0)
          }
        const turned = composeRegion([layer(p, { toCanvas: rotation(180, 4, 4) })], whole)
        const back = composeRegion([layer(turned, { toCanvas: rotation(180, 4, 4) })], whole).data
        expect(back.every((v, i) => Math.abs(v - p.data[i]) <= 1)).toBe(true)
      }),
    )
  })
  it('a flat picture keeps its colour at any scale and turn, and its edge is anti-aliased to its true area', () => {
    const data = new Uint8Array(SIZE * SIZE * 4)
    for (let i = 0; i < data.length; i += 4) data.set([90, 140, 210, 255], i)
    for (const toCanvas of [
      scaling(3.3),
      compose(translation(20, 9), rotation(33)),
      compose(translation(7.25, 5.5), scaling(1.7, 0.6)),
    ]) {
      const out = composeRegion([layer(picture(data), { toCanvas })], {
        level: 0,
        x: -10,
        y: -10,
        width: 60,
        height: 60,
      }).data
      let area = 0
      for (let i = 0; i < out.length; i += 4) {
        area += out[i + 3] / 255
        if (out[i + 3] > 40) {
          expect(Math.abs(out[i] - 90)).toBeLessThanOrEqual(2)
          expect(Math.abs(out[i + 2] - 210)).toBeLessThanOrEqual(2)
        }
      }
      expect(area / (64 * Math.abs(toCanvas[0] * toCanvas[3] - toCanvas[1] * toCanvas[2]))).toBeCloseTo(1, 1)
    }
  })
  it('level n of the canvas is the mean of the full canvas; a placement without area draws nothing', () => {
    const p = picture(
      Uint8Array.from({ length: SIZE * SIZE * 4 }, (_, i) => (i * 53) % 256),
      true,
    )
    const big: Picture = {
      width: 512,
      height: 512,
      data: new Uint8ClampedArray(512 * 512 * 4).map((_, i) => (i % 4 === 3 ? 255 : p.data[i % 256])),
    }
    const half = composeRegion([layer(big)], { level: 1, x: 3, y: 2, width: 4, height: 4 }).data
    const mean = (c: number) =>
      (big.data[(4 * 512 + 6) * 4 + c] +
        big.data[(4 * 512 + 7) * 4 + c] +
        big.data[(5 * 512 + 6) * 4 + c] +
        big.data[(5 * 512 + 7) * 4 + c]) /
      4
    expect(Math.abs(half[0] - mean(0))).toBeLessThanOrEqual(1)
    expect(composeRegion([layer(p, { toCanvas: [0, 0, 0, 1, 0, 0] })], whole).data.every((v) => v === 0)).toBe(true)
  })
})

describe('what is as good as nothing', () => {
  it.each([false, true])('has no colour, in eight bits and in sixteen (linear light: %s)', (linear) => {
    const fill = (opacity: number): Node => ({
      kind: 'fill',
      fill: { kind: 'colour', colour: '#c06040' },
      toCanvas: IDENTITY,
      opacity,
    })
    const renderer = new Renderer(0),
      region = { level: 0, x: 0, y: 0, width: 3, height: 2 }
    renderer.show([fill(0.49 / 255)], { canvas: { width: 3, height: 2 }, linear })
    expect(renderer.region(region).data.every((v) => v === 0)).toBe(true)
    expect(renderer.deepRegion(region).data.every((v) => v > 0)).toBe(true)
    renderer.show([fill(0.49 / 65535)], { canvas: { width: 3, height: 2 }, linear })
    expect(renderer.deepRegion(region).data.every((v) => v === 0)).toBe(true)
    renderer.show([fill(0.51 / 255)], { canvas: { width: 3, height: 2 }, linear })
    expect([...renderer.region(region).data.subarray(0, 4)]).toEqual([0xc0, 0x60, 0x40, 1])
  })
})

describe('sixteen bits a channel', () => {
  it.each([false, true])('are what eight are, with the rest of it (linear light: %s)', (linear) => {
    const size = { width: 40, height: 6 },
      ramp: Node = {
        kind: 'fill',
        fill: {
          kind: 'gradient',
          shape: 'linear',
          from: [0, 0],
          to: [40, 0],
          stops: [
            { at: 0, colour: '#102030', alpha: 0.25 },
            { at: 1, colour: '#f0e0d0', alpha: 1 },
          ],
        },
        toCanvas: IDENTITY,
        opacity: 0.9,
      }
    const renderer = new Renderer(0)
    renderer.show([ramp], { canvas: size, linear })
    const region = { level: 0, x: 0, y: 0, ...size },
      eight = renderer.region(region).data,
      deep = renderer.deepRegion(region).data
    let finer = 0
    for (let i = 0; i < eight.length; i++) {
      // Eight bits are rounded once, by tables in linear light.
      expect(Math.abs(deep[i] / 257 - eight[i])).toBeLessThanOrEqual(linear ? 0.6 : 0.502)
      if (deep[i] % 257) finer++
    }
    expect(finer).toBeGreaterThan(eight.length / 2)
  })
})
