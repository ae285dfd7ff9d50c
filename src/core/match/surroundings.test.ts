import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fromLinear, toLinear } from '../colour/srgb'
import { composeRegion } from '../compose/composeRegion'
import { gaussianBlur } from '../raster/gaussian'
import { type Matte, type Picture } from '../raster/picture'
import { blurOf } from './edgeBlur'
import { grainOf } from './grain'
import { sideShading } from './sideShading'
import { matchLayer } from './surroundings'

const WIDTH = 240,
  HEIGHT = 180
type Rgb = readonly [number, number, number]

/** Squares of many albedos under a light, with some grain: the same content for the same seed. */
function squares(seed: number, light: Rgb, { side = 15, deviation = 0 } = {}): Picture {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  const share = (a: number, b: number, c: number) => {
    let v = Math.imul(a + 1, 0x9e3779b1) ^ Math.imul(b + 7, 0x85ebca6b) ^ Math.imul(c + seed * 31 + 3, 0xc2b2ae35)
    v = Math.imul(v ^ (v >>> 15), 0x2c1b3c6d)
    v = Math.imul(v ^ (v >>> 12), 0x297a2d39)
    return ((v ^ (v >>> 15)) >>> 0) / 2 ** 32
  }
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i += 4) {
      // A sum of uniform shares: about normal (Irwin-Hall).
      const noise = deviation * 1.732 * (share(x, y, 5) + share(x, y, 6) + share(x, y, 7) + share(x, y, 8) - 2)
      for (let c = 0; c < 3; c++) {
        const albedo = 0.08 + 0.5 * share(Math.floor(x / side), Math.floor(y / side), c)
        data[i + c] = 255 * fromLinear(albedo * light[c]) + noise
      }
      data[i + 3] = 255
    }
  return { width: WIDTH, height: HEIGHT, data }
}
const middle: Matte = {
  width: WIDTH,
  height: HEIGHT,
  data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
    Math.hypot((i % WIDTH) - WIDTH / 2, Math.floor(i / WIDTH) - HEIGHT / 2) < 55 ? 255 : 0,
  ),
}
const noSky = { own: null, below: null }
const made = (own: Picture, adjustments: readonly object[], opaque = true): Picture =>
  composeRegion(
    [
      { kind: 'picture', picture: { levels: [own], opaque }, toCanvas: [1, 0, 0, 1, 0, 0], opacity: 1 },
      ...adjustments.map((adjustment) => ({ kind: 'adjust', adjustment, opacity: 1 })),
    ] as never,
    { level: 0, x: 0, y: 0, width: WIDTH, height: HEIGHT },
  )
/** Mean difference where the layer shows, levels. */
function apart(a: Picture, b: Picture): number {
  let sum = 0,
    count = 0
  middle.data.forEach((on, p) => {
    if (!on) return
    for (let c = 0; c < 3; c++) sum += Math.abs(a.data[4 * p + c] - b.data[4 * p + c])
    count += 3
  })
  return sum / count
}

describe('a layer and its surroundings', () => {
  it('the same thing under another light looks as that light makes it, whatever lies around it (any light)', () => {
    const channel = fc.double({ min: 0.35, max: 1.6, noNaN: true })
    fc.assert(
      fc.property(fc.tuple(channel, channel, channel), fc.integer({ min: 1, max: 1000 }), (light, seed) => {
        const own = squares(seed, [0.9, 0.9, 0.9]),
          truth = squares(seed, light),
          below = squares(seed + 1, light),
          { relight, contrast } = matchLayer({ own, shows: middle, below, sky: noSky })!,
          before = apart(own, truth)
        // Other albedos around it: what they differ by is all that may be left.
        expect(apart(made(own, [relight, contrast]), truth)).toBeLessThan(Math.max(9, 0.45 * before))
      }),
      { numRuns: 10 },
    )
  })
  it('surroundings as its own change nothing', () => {
    const own = squares(4, [0.8, 0.7, 0.6], { deviation: 2 }),
      { relight, contrast, blur, grain } = matchLayer({ own, shows: middle, below: own, sky: noSky })!
    expect(relight.light).toEqual(relight.ambient)
    expect(contrast.contrast).toBe(0)
    expect(blur.radius).toBe(0)
    expect(grain.amount).toBe(0)
    expect(apart(made(own, [relight, contrast, blur, grain]), own)).toBe(0)
  })
  it('a cut-out without its own photo around it is compared by itself', () => {
    const own = squares(4, [0.9, 0.9, 0.9]),
      data = own.data.slice()
    middle.data.forEach((on, p) => {
      if (!on) data[4 * p + 3] = 0
    })
    const alone = { ...own, data },
      below = squares(9, [0.3, 0.3, 0.45]),
      { relight } = matchLayer({ own: alone, shows: middle, below, sky: noSky })!
    expect(relight.ambient[0]).toBeLessThan(0.7 * relight.light[0])
    expect(relight.ambient[2] / relight.light[2]).toBeGreaterThan(relight.ambient[0] / relight.light[0])
  })
  it('softer surroundings soften it, as much as they are softer, within 0.4 px', () => {
    const own = squares(2, [1, 1, 1], { side: 30 })
    for (const sigma of [1.5, 2.5]) {
      const channels = [0, 1, 2].map((c) =>
          gaussianBlur(
            {
              width: WIDTH,
              height: HEIGHT,
              data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => squares3.data[4 * i + c]),
            },
            sigma,
          ),
        ),
        below = { ...own, data: own.data.map((_, i) => (i % 4 === 3 ? 255 : channels[i % 4].data[i >> 2])) },
        { blur } = matchLayer({ own, shows: middle, below, sky: noSky })!
      expect(Math.abs(blur.radius / 2 - sigma), `${blur.radius / 2} for ${sigma}`).toBeLessThan(0.4)
      expect(blurOf(made(own, [blur]))!).toBeGreaterThan(0.8 * blurOf(below)!)
    }
    expect(matchLayer({ own: squares3, shows: middle, below: own, sky: noSky })!.blur.radius).toBe(0)
  })
  it('grainy surroundings give it the grain it lacks, within 20 %', () => {
    const own = squares(2, [1, 1, 1], { side: 30 }),
      below = squares(3, [1, 1, 1], { side: 30, deviation: 5 }),
      { grain } = matchLayer({ own, shows: middle, below, sky: noSky })!
    expect(Math.abs(grainOf(made(own, [grain]))!.deviation / grainOf(below)!.deviation - 1)).toBeLessThan(0.2)
  })
  it('lit from the other side than its surroundings, it takes light from theirs; lit from the same, or lit evenly, it stays', () => {
    /** Squares that get lighter to one side, each rounded a little, as things are. */
    const sided = (seed: number, by: number) => {
      const { data } = squares(seed, [0.8, 0.8, 0.8], { side: 30 })
      return {
        width: WIDTH,
        height: HEIGHT,
        data: data.map((v, i) =>
          i % 4 === 3 ? v : 255 * fromLinear(toLinear(v / 255) * 2 ** (by * (((i >> 2) % 30) / 30 - 0.5))),
        ),
      }
    }
    /** What shows, lighter on one side. */
    const thing = (by: number) => {
      const { data } = sided(3, by)
      return {
        width: WIDTH,
        height: HEIGHT,
        data: data.map((v, i) =>
          i % 4 === 3 ? v : 255 * fromLinear(toLinear(v / 255) * 2 ** ((by * (((i >> 2) % WIDTH) - WIDTH / 2)) / 110)),
        ),
      }
    }
    const of = (own: number, around: number) =>
      matchLayer({ own: thing(own), shows: middle, below: sided(5, around), sky: noSky })!
    const turned = of(-0.8, 0.8)
    expect(turned.sideLight.angle).toBe(90)
    expect(turned.sideLight.stops).toBeGreaterThan(0.3)
    const before = thing(-0.8),
      cutOut = { ...before, data: before.data.map((v, i) => (i % 4 === 3 ? middle.data[i >> 2] : v)) },
      lean = (picture: Picture) => sideShading(picture, middle, turned.sideLight.radius)
    expect(lean(before)).toBeLessThan(-0.1)
    expect(lean(made(cutOut, [turned.sideLight], false))).toBeGreaterThan(0.1)
    expect(of(0.8, 0.8).sideLight.stops).toBe(0)
    expect(of(0, 0.8).sideLight.stops).toBe(0)
  })
  it('needs something that shows and something below', () => {
    const own = squares(1, [1, 1, 1]),
      nothing = { ...own, data: new Uint8ClampedArray(own.data.length) }
    expect(
      matchLayer({ own, shows: { ...middle, data: new Uint8Array(middle.data.length) }, below: own, sky: noSky }),
    ).toBeNull()
    expect(matchLayer({ own, shows: middle, below: nothing, sky: noSky })).toBeNull()
  })
})
const squares3 = squares(3, [1, 1, 1], { side: 30 })
