import fc from '../../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { type Picture } from '../../raster/picture'
import { plainContext, sceneOf } from '../onePicture'
import { colourDistance, patchColour } from './distance'
import { floodColour, floodDistance } from './flood'
import { preparedPick, similarColour } from './index'
import { connectedOrder, distanceOrder, type JoinOrder } from './joinOrder'
import { LivePick } from './livePick'
import { hardened } from '../../raster/edgeMarks'
import { runExtremes } from './runExtremes'
import { toleranceCurve } from './toleranceCurve'

const WIDTH = 17,
  HEIGHT = 13
const distances = fc.uint8Array({ minLength: WIDTH * HEIGHT, maxLength: WIDTH * HEIGHT })
const patchy = fc
  .array(fc.constantFrom(0, 0, 0, 30, 90, 255), { minLength: WIDTH * HEIGHT, maxLength: WIDTH * HEIGHT })
  .map((v) => Uint8Array.from(v))
const size = { width: WIDTH, height: HEIGHT }

/** Breadth-first by the book: the set of joined pixels. */
function joined(distance: Uint8Array, x: number, y: number, tolerance: number): Uint8Array {
  const out = new Uint8Array(distance.length),
    queue = [[x, y]]
  while (queue.length) {
    const [i, j] = queue.pop()!
    if (i < 0 || j < 0 || i >= WIDTH || j >= HEIGHT || out[j * WIDTH + i] || distance[j * WIDTH + i] > tolerance)
      continue
    out[j * WIDTH + i] = 255
    queue.push([i - 1, j], [i + 1, j], [i, j - 1], [i, j + 1])
  }
  return out
}
const blank = () => new Uint8Array(WIDTH * HEIGHT)
const edgeOf = (set: Uint8Array): number[] =>
  [...set.keys()].filter((i) => {
    const x = i % WIDTH
    return (
      (x > 0 && set[i - 1] !== set[i]) ||
      (x < WIDTH - 1 && set[i + 1] !== set[i]) ||
      (i >= WIDTH && set[i - WIDTH] !== set[i]) ||
      (i + WIDTH < set.length && set[i + WIDTH] !== set[i])
    )
  })
const firstOf = ({ order, ends }: JoinOrder, t: number): Uint8Array => {
  const out = new Uint8Array(order.length)
  for (const i of order.subarray(0, ends[t])) out[i] = 255
  return out
}
const finish = <T>(work: Generator<number, T>): T => {
  for (;;) {
    const step = work.next()
    if (step.done) return step.value
  }
}
const params = {
  at: [0, 0] as const,
  tolerance: 32,
  contiguous: true,
  patch: 1 as const,
  metric: 'channel' as const,
  antialias: true,
  sample: 'all' as const,
}
const pictureOf = (width: number, height: number, colour: (x: number, y: number) => number[]): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...colour(x, y), 255].slice(0, 4), (y * width + x) * 4)
  return { width, height, data }
}

/** The first place where they differ; -1: nowhere. */
const differs = (a: Uint8Array, b: Uint8Array): number =>
  a.length === b.length ? a.findIndex((v, i) => v !== b[i]) : a.length

describe('similar colour', () => {
  it('the scanline flood finds the joined pixels, whatever the picture, seed and tolerance', () => {
    fc.assert(
      fc.property(fc.oneof(distances, patchy), fc.nat(WIDTH - 1), fc.nat(HEIGHT - 1), fc.nat(255), (d, x, y, t) => {
        const { marks, edge } = floodDistance(d, size, x, y, t, blank())
        expect(hardened(marks, edge)).toEqual(joined(d, x, y, t))
      }),
      { numRuns: 500 },
    )
  })
  it('the edge that comes with a flood is every pixel with a neighbour on the other side, once', () => {
    fc.assert(
      fc.property(patchy, fc.nat(WIDTH - 1), fc.nat(HEIGHT - 1), fc.nat(255), (d, x, y, t) => {
        const set = joined(d, x, y, t)
        expect([...floodDistance(d, size, x, y, t, blank()).edge].sort((a, b) => a - b)).toEqual(edgeOf(set))
      }),
      { numRuns: 300 },
    )
  })
  it('flooding by colour is flooding by channel distance', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.uint8Array({ minLength: WIDTH * HEIGHT * 4, maxLength: WIDTH * HEIGHT * 4 }),
          fc
            .array(fc.constantFrom(90, 100, 110), { minLength: WIDTH * HEIGHT * 4, maxLength: WIDTH * HEIGHT * 4 })
            .map((v) => Uint8Array.from(v)),
        ),
        fc.nat(WIDTH - 1),
        fc.nat(HEIGHT - 1),
        fc.double({ min: 0, max: 255, noNaN: true }),
        (bytes, x, y, t) => {
          const picture: Picture = { ...size, data: new Uint8ClampedArray(bytes) },
            colour = patchColour(picture, x, y, 3)
          const byDistance = floodDistance(colourDistance(picture, colour, 'channel'), size, x, y, t, blank())
          for (const extremes of [undefined, runExtremes(picture)])
            expect(floodColour(picture, colour, x, y, t, blank(), extremes).marks).toEqual(byDistance.marks)
        },
      ),
    )
  })
  it('the first pixels of the join order are the flood, at every tolerance', () => {
    fc.assert(
      fc.property(fc.oneof(distances, patchy), fc.nat(WIDTH - 1), fc.nat(HEIGHT - 1), (d, x, y) => {
        const joins = finish(connectedOrder(d, size, x, y))
        expect(joins.ends[255]).toBe(d.length)
        for (let t = 0; t < 256; t += 5) expect(differs(firstOf(joins, t), joined(d, x, y, t))).toBe(-1)
        const everywhere = finish(distanceOrder(d))
        for (let t = 0; t < 256; t += 5)
          expect(
            differs(
              firstOf(everywhere, t),
              d.map((v) => (v <= t ? 255 : 0)),
            ),
          ).toBe(-1)
      }),
      { numRuns: 60 },
    )
  })
  it('a live pick moved through any tolerances gives what a fresh one gives', () => {
    fc.assert(
      fc.property(
        distances,
        fc.array(fc.tuple(fc.nat(255), fc.boolean()), { minLength: 1, maxLength: 12 }),
        (d, moves) => {
          const picture: Picture = {
            ...size,
            data: Uint8ClampedArray.from({ length: d.length * 4 }, (_, i) =>
              i % 4 === 3 ? 255 : d[i >> 2] ^ (i * 31),
            ),
          }
          const joins = finish(connectedOrder(d, size, 3, 4)),
            live = new LivePick(picture, joins)
          for (const [t, soft] of moves) expect(live.at(t, soft)).toEqual(new LivePick(picture, joins).at(t, soft))
        },
      ),
      { numRuns: 80 },
    )
  })
  it('channel distance: within ±tolerance of the picked colour in every channel (common practice)', () => {
    const picture = pictureOf(
      4,
      1,
      (x) =>
        [
          [100, 100, 100],
          [132, 100, 68],
          [133, 100, 100],
          [100, 67, 100],
        ][x],
    )
    expect([...colourDistance(picture, [100, 100, 100, 255], 'channel')]).toEqual([0, 32, 33, 33])
    expect(
      colourDistance(
        pictureOf(2, 1, (x) => (x ? [255, 255, 255] : [0, 0, 0])),
        [0, 0, 0, 255],
        'perceptual',
      ),
    ).toEqual(Uint8Array.of(0, 255))
  })
  it('the pick may be the mean of 1, 3 or 5 pixels square, cut at the border', () => {
    const picture = pictureOf(5, 5, (x, y) => (x === 2 && y === 2 ? [90, 0, 0] : [0, 0, 0]))
    expect(patchColour(picture, 2, 2, 1)[0]).toBe(90)
    expect(patchColour(picture, 2, 2, 3)[0]).toBe(10)
    expect(patchColour(picture, 1, 1, 3)[0]).toBe(10)
    expect(patchColour(picture, 0, 0, 3)[0]).toBe(0)
  })
  it('an edge pixel is covered as far as its colour lies between inside and outside', () => {
    for (const alpha of [0.1, 0.25, 0.5, 0.8]) {
      const wall = [150, 160, 190],
        wool = [180, 90, 40]
      const picture = pictureOf(12, 9, (x) =>
        wall.map((w, c) => Math.round(x < 6 ? w : x > 6 ? wool[c] : w * alpha + wool[c] * (1 - alpha))),
      )
      const { data } = similarColour.find(sceneOf(picture), { ...params, at: [1, 4] }, plainContext())
      expect(data[4 * 12 + 4]).toBe(255)
      expect(data[4 * 12 + 8]).toBe(0)
      expect(Math.abs(data[4 * 12 + 6] - 255 * alpha)).toBeLessThan(3)
    }
  })
  it('preparing changes speed, not the answer', () => {
    const picture = pictureOf(60, 40, (x, y) => [120 + ((x * 7 + y * 13) % 30), 100 + ((x * y) % 50), 90])
    const context = plainContext(),
      scene = sceneOf(picture)
    const before = similarColour.find(scene, { ...params, at: [30, 20], tolerance: 21 }, plainContext()).data
    finish(similarColour.prepare!(scene, { ...params, at: [30, 20] }, context))
    expect(similarColour.find(scene, { ...params, at: [30, 20], tolerance: 21 }, context).data).toEqual(before)
  })
  it('a picture too large to be prepared is picked all the same, connected and everywhere', () => {
    const picture = pictureOf(60, 40, (x, y) => [120 + ((x * 7 + y * 13) % 30), 100 + ((x * y) % 50), 90]),
      scene = sceneOf(picture)
    for (const contiguous of [true, false]) {
      const small = plainContext(5000),
        values = { ...params, at: [30, 20] as const, tolerance: 12, contiguous }
      finish(similarColour.prepare!(scene, values, small))
      expect(preparedPick(scene, values, small)).toBeUndefined()
      expect(similarColour.find(scene, values, small).data).toEqual(
        similarColour.find(scene, values, plainContext()).data,
      )
    }
  })
  it('the tolerance curve never falls and marks where the pick spills', () => {
    const picture = pictureOf(100, 50, (x) => (x < 40 ? [100 + (x % 4), 100, 100] : [160, 100, 100]))
    const context = plainContext(),
      scene = sceneOf(picture)
    finish(similarColour.prepare!(scene, { ...params, at: [5, 5] }, context))
    const curve = toleranceCurve(preparedPick(scene, { ...params, at: [5, 5] }, context)!.ends)
    curve.shares.forEach((s, t) => {
      if (t) expect(s).toBeGreaterThanOrEqual(curve.shares[t - 1])
    })
    expect(curve.shares[10]).toBeCloseTo(0.4, 6)
    expect(curve.spills).toEqual([59])
  })
  it('a pick outside the canvas finds nothing; tolerance 255 finds everything; a 1×1 picture works', () => {
    const picture = pictureOf(6, 5, (x, y) => [x * 50, y * 60, 0])
    expect(
      similarColour.find(sceneOf(picture), { ...params, at: [-3, 2] }, plainContext()).data.every((v) => v === 0),
    ).toBe(true)
    expect(
      similarColour.find(sceneOf(picture), { ...params, at: [6, 2] }, plainContext()).data.every((v) => v === 0),
    ).toBe(true)
    expect(
      similarColour.find(sceneOf(picture), { ...params, tolerance: 255 }, plainContext()).data.every((v) => v === 255),
    ).toBe(true)
    expect(
      similarColour.find(sceneOf(pictureOf(1, 1, () => [9, 9, 9])), { ...params, tolerance: 0 }, plainContext()).data,
    ).toEqual(Uint8Array.of(255))
  })
})
