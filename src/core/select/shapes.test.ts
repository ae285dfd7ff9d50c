import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { type Matte, type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'

const picture: Picture = {
  width: 80,
  height: 60,
  data: new Uint8ClampedArray(80 * 60 * 4).map((_, i) => (i % 4 === 3 ? 255 : i % 4 === 0 ? ((i >> 2) % 80) * 3 : 90)),
}
const fold = (...steps: object[]): Matte =>
  foldSteps(
    steps.map((s) => parseStep(s)),
    sceneOf(picture),
    plainContext(),
  )
const area = (m: Matte) => m.data.reduce((s, v) => s + v / 255, 0)
const box = fc.record({
  x: fc.double({ min: 22, max: 30, noNaN: true }),
  y: fc.double({ min: 16, max: 24, noNaN: true }),
  width: fc.double({ min: 1, max: 24, noNaN: true }),
  height: fc.double({ min: 1, max: 20, noNaN: true }),
  rotation: fc.double({ min: -360, max: 360, noNaN: true }),
})

describe('shapes', () => {
  it('an ellipse has the area πab at any turn, a triangle half its box (planar geometry)', () => {
    fc.assert(
      fc.property(box, (b) => {
        expect(area(fold({ kind: 'ellipse', ...b }))).toBeCloseTo((Math.PI * b.width * b.height) / 4, -0.3)
        expect(area(fold({ kind: 'triangle', ...b }))).toBeCloseTo((b.width * b.height) / 2, -0.3)
      }),
      { numRuns: 60 },
    )
  })
  it('a circle covers each pixel by its share of the disc (16×16 supersampling)', () => {
    const { data } = fold({ kind: 'ellipse', x: 10.3, y: 8.7, width: 37.4, height: 37.4 })
    let error = 0
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 80; x++) {
        let inside = 0
        for (let k = 0; k < 256; k++)
          if (Math.hypot(x + ((k & 15) + 0.5) / 16 - 29, y + ((k >> 4) + 0.5) / 16 - 27.4) <= 18.7) inside++
        error += Math.abs(data[y * 80 + x] - (255 * inside) / 256)
      }
    expect(error / data.length).toBeLessThan(1)
  })
  it('a band is a full row or column, fractions of pixels covered as fractions', () => {
    expect(area(fold({ kind: 'band', axis: 'row', start: 10.25, size: 3.5 }))).toBeCloseTo(80 * 3.5, 0)
    expect(area(fold({ kind: 'band', axis: 'column', start: -5, size: 9 }))).toBeCloseTo(60 * 4, 6)
    expect(area(fold({ kind: 'band', axis: 'column', start: 500, size: 9 }))).toBe(0)
  })
  it('a polygon of a rectangle is the rectangle; crossing itself it opens; two points enclose nothing', () => {
    expect(
      fold({
        kind: 'polygon',
        points: [
          [5, 5],
          [30, 5],
          [30, 22],
          [5, 22],
        ],
      }).data,
    ).toEqual(fold({ kind: 'rectangle', x: 5, y: 5, width: 25, height: 17 }).data)
    expect(
      area(
        fold({
          kind: 'polygon',
          points: [
            [0, 0],
            [40, 40],
            [40, 0],
            [0, 40],
          ],
        }),
      ),
    ).toBeCloseTo(800, 0)
    expect(
      area(
        fold({
          kind: 'polygon',
          points: [
            [0, 0],
            [40, 40],
          ],
        }),
      ),
    ).toBe(0)
    expect(() => parseStep({ kind: 'polygon', points: [[0, NaN]] })).toThrow(
      'points: takes a list of up to 100000 points',
    )
    expect(() =>
      parseStep({
        kind: 'polygon',
        points: [
          [0, 1e9],
          [1, 1],
          [2, 2],
        ],
      }),
    ).toThrow('numbers in px')
  })
})

describe('palette', () => {
  it('covers fully what is near a picked colour, not what is far, and more as the spread grows', () => {
    const near = fold({ kind: 'palette', colours: [[0, 90, 90]], spread: 10, softness: 0 })
    expect(near.data[0]).toBe(255)
    expect(near.data[79]).toBe(0)
    let last = -1
    for (const spread of [2, 8, 20, 45, 90]) {
      const now = area(fold({ kind: 'palette', colours: [[0, 90, 90]], spread }))
      expect(now).toBeGreaterThanOrEqual(last)
      last = now
    }
  })
  it('several colours are the union of each; none finds nothing; as a limit it keeps only those inside', () => {
    const one = fold({ kind: 'palette', colours: [[0, 90, 90]] }),
      two = fold({ kind: 'palette', colours: [[237, 90, 90]] })
    expect(
      fold({
        kind: 'palette',
        colours: [
          [0, 90, 90],
          [237, 90, 90],
        ],
      }).data,
    ).toEqual(one.data.map((v, i) => Math.max(v, two.data[i])))
    expect(area(fold({ kind: 'palette', colours: [] }))).toBe(0)
    const limited = fold(
      { kind: 'rectangle', x: 0, y: 0, width: 80, height: 30 },
      { kind: 'limitColour', colours: [[0, 90, 90]], spread: 24, softness: 0.5 },
    )
    expect(limited.data).toEqual(one.data.map((v, i) => (i < 80 * 30 ? v : 0)))
  })
})

describe('commands on the whole selection', () => {
  const disc = { kind: 'ellipse', x: 20, y: 10, width: 40, height: 40 },
    hole = { kind: 'ellipse', op: 'subtract', x: 34, y: 24, width: 12, height: 12 }
  it('all and none are everything and nothing; opacity scales', () => {
    expect(area(fold({ kind: 'all' }))).toBe(4800)
    expect(area(fold(disc, { kind: 'none' }))).toBe(0)
    expect(area(fold({ kind: 'all' }, { kind: 'opacity', by: 0.4 }))).toBeCloseTo(4800 * 0.4, 6)
  })
  it('a contour of thickness t along a circle has the area of the ring 2πr·t', () => {
    expect(area(fold(disc, { kind: 'contour', thickness: 6 })) / (2 * Math.PI * 20 * 6)).toBeCloseTo(1, 1)
  })
  it('holes are filled up to an area, the outside never; specks are dropped up to an area', () => {
    const whole = fold(disc),
      open = fold(disc, hole)
    expect(fold(disc, hole, { kind: 'fillHoles' }).data).toEqual(whole.data)
    expect(fold(disc, hole, { kind: 'fillHoles', maxArea: 50 }).data).toEqual(open.data)
    const speck = { kind: 'rectangle', x: 2, y: 2, width: 5, height: 4 }
    expect(fold(disc, speck, { kind: 'dropSpecks', maxArea: 20 }).data).toEqual(whole.data)
    expect(fold(disc, speck, { kind: 'dropSpecks', maxArea: 19 }).data).toEqual(fold(disc, speck).data)
  })
  it('smoothing keeps a straight edge where it was and rounds corners off', () => {
    const square = { kind: 'rectangle', x: 15, y: 10, width: 40, height: 40 }
    const smooth = fold(square, { kind: 'smooth', radius: 8 })
    for (let x = 0; x < 80; x++)
      expect(Math.abs(smooth.data[30 * 80 + x] - fold(square).data[30 * 80 + x])).toBeLessThanOrEqual(90)
    expect(smooth.data[30 * 80 + 16]).toBe(255)
    expect(smooth.data[10 * 80 + 15]).toBe(0)
  })
  it('moving and turning the selection without its pixels: by whole pixels exactly, twice half a turn is none', () => {
    const moved = fold(disc, { kind: 'transform', matrix: [1, 0, 0, 1, 7, -3] }),
      direct = fold({ ...disc, x: 27, y: 7 })
    expect(moved.data).toEqual(direct.data)
    const turned = fold(
      disc,
      { kind: 'transform', matrix: [-1, 0, 0, -1, 80, 60] },
      { kind: 'transform', matrix: [-1, 0, 0, -1, 80, 60] },
    )
    const straight = fold(disc).data
    expect(turned.data.every((v, i) => Math.abs(v - straight[i]) <= 1)).toBe(true)
    expect(area(fold(disc, { kind: 'transform', matrix: [0, 0, 0, 1, 0, 0] }))).toBe(0)
  })
})
