/** Pictures made up after faults that finders by object had on photographs: each has the same trouble in it, and a truth that is drawn. */
import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { overlap } from '../matting/errors'
import { type Matte, type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'

const WIDTH = 480,
  HEIGHT = 320
type Colour = readonly [number, number, number]

/** Smooth noise, 0-1. */
function cloud(x: number, y: number, seed: number): number {
  return (
    0.5 +
    0.2 * Math.sin(x / 31 + seed + 2 * Math.sin(y / 47 + seed)) +
    0.2 * Math.sin(y / 23 - seed + 1.5 * Math.sin(x / 39)) +
    0.1 * Math.sin((x + y) / 9 + seed)
  )
}
const lit = (colour: Colour, by: number): Colour => [colour[0] * by, colour[1] * by, colour[2] * by]

/** @param thing how much of the pixel is the thing, 0-1 */
function drawn(
  thing: (x: number, y: number) => number,
  inside: (x: number, y: number) => Colour,
  outside: (x: number, y: number) => Colour,
) {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4),
    truth = new Uint8Array(WIDTH * HEIGHT)
  let seed = 5
  const grain = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32 - 0.5) * 10
  for (let i = 0; i < truth.length; i++) {
    const x = i % WIDTH,
      y = Math.floor(i / WIDTH),
      share = Math.max(0, Math.min(1, thing(x, y))),
      a = inside(x, y),
      b = outside(x, y)
    truth[i] = 255 * share
    data.set([...[0, 1, 2].map((c) => b[c] + share * (a[c] - b[c]) + grain()), 255], 4 * i)
  }
  return {
    picture: { width: WIDTH, height: HEIGHT, data } as Picture,
    truth: { width: WIDTH, height: HEIGHT, data: truth } as Matte,
  }
}
const ellipse = (x: number, y: number, cx: number, cy: number, rx: number, ry: number) =>
  (1 - Math.hypot((x - cx) / rx, (y - cy) / ry)) * Math.min(rx, ry) + 0.5
const rectangle = (x: number, y: number, x0: number, y0: number, x1: number, y1: number) =>
  x >= x0 && x < x1 && y >= y0 && y < y1 ? 1 : 0

function answer({ picture }: { picture: Picture }, step: object): Matte {
  return foldSteps([parseStep(step)], sceneOf(picture), plainContext())
}
const at = (matte: Matte, x: number, y: number) => matte.data[y * WIDTH + x]
const dots = (...places: [number, number][]) => places.map(([x, y]) => ({ points: [[x, y], [x + 1, y]], size: 12 })) // prettier-ignore

describe('rough box', () => {
  it('sides on the picture’s border are unknown, and a backdrop has several colours', () => {
    // An animal before a wall that is light above and dark below; the box touches three borders.
    const body = (x: number, y: number) =>
      Math.max(
        ellipse(x, y, 330, 200, 105, 85),
        ellipse(x, y, 250, 105, 52, 48),
        ellipse(x, y, 225, 60, 14, 28),
        ellipse(x, y, 272, 58, 14, 28),
      )
    const scene = drawn(
      body,
      (x, y) => lit([205, 140, 80], 0.6 + 0.5 * cloud(x, y, 3)),
      (x, y) =>
        y < 170 ? lit([190, 195, 185], 0.95 + 0.1 * cloud(x, y, 1)) : lit([70, 85, 95], 0.9 + 0.2 * cloud(x, y, 2)),
    )
    expect(overlap(answer(scene, { kind: 'roughBox', box: [185, 0, WIDTH, HEIGHT] }), scene.truth)).toBeGreaterThan(0.8)
  })
  it('shading on one thing is not its edge', () => {
    // A striped jug, lit from the left and dark on the right.
    const jug = (x: number, y: number) => Math.max(ellipse(x, y, 240, 180, 85, 110), rectangle(x, y, 205, 50, 275, 100))
    const scene = drawn(
      jug,
      (x, y) =>
        lit(
          Math.floor(y / 14) % 2 ? [60, 110, 180] : [225, 215, 190],
          Math.max(0.18, 1.15 - Math.max(0, x - 170) / 150),
        ),
      (x, y) => lit([150, 140, 128], 0.9 + 0.2 * cloud(x, y, 4)),
    )
    expect(overlap(answer(scene, { kind: 'roughBox', box: [140, 38, 338, 302] }), scene.truth)).toBeGreaterThan(0.85)
  })
  it('the shadow that a thing throws is no part of it', () => {
    // A key of blue metal lies on a mottled green cloth; its shadow leaves 0.45 of the light.
    const key = (x: number, y: number) =>
      Math.max(
        11.5 - Math.abs(Math.hypot(x - 150, y - 160) - 46),
        9.5 - Math.hypot(x - Math.max(205, Math.min(370, x)), y - 160),
        rectangle(x, y, 322, 160, 338, 203),
        rectangle(x, y, 354, 160, 370, 210),
      )
    const shadow = (x: number, y: number) => Math.max(0, Math.min(1, key(x - 9, y - 12) / 5))
    const scene = drawn(
      key,
      (x, y) => lit([70, 140, 170], 0.85 + 0.3 * cloud(x, y, 3)),
      (x, y) => lit([160, 190, 90], (0.8 + 0.4 * cloud(2 * x, 2 * y, 9)) * (1 - 0.3 * shadow(x, y))),
    )
    expect(overlap(answer(scene, { kind: 'roughBox', box: [80, 90, 425, 235] }), scene.truth)).toBeGreaterThan(0.85)
    const marks = { keep: dots([250, 160], [150, 114]), drop: dots([300, 60], [60, 280]) }
    expect(overlap(answer(scene, { kind: 'marks', ...marks, unsure: [] }), scene.truth)).toBeGreaterThan(0.95)
  })
  it('a building nearly as large as the picture keeps its dark doors and its shaded side, and leaves the sky', () => {
    const house = (x: number, y: number) =>
      Math.max(rectangle(x, y, 50, 110, 430, 285), y > 40 && y < 112 && Math.abs(x - 240) < (y - 40) * 2.75 ? 1 : 0)
    const opening = (x: number, y: number) =>
      rectangle(x, y, 215, 190, 265, 285) || rectangle(x % 90, y, 20, 150, 48, 195) ? 1 : 0
    const scene = drawn(
      house,
      (x, y) => (y < 112 ? [120, 70, 60] : opening(x, y) ? [38, 34, 36] : lit([214, 196, 160], x > 330 ? 0.55 : 1)),
      (x, y) =>
        y > 270 ? lit([110, 120, 80], 0.8 + 0.4 * cloud(x, y, 6)) : lit([120, 165, 215], 0.9 + 0.35 * cloud(x, y, 5)),
    )
    const matte = answer(scene, { kind: 'roughBox', box: [38, 30, 444, 297] })
    expect(overlap(matte, scene.truth)).toBeGreaterThan(0.85)
    expect(at(matte, 240, 240)).toBeGreaterThan(200)
    expect(at(matte, 380, 220)).toBeGreaterThan(200)
    expect(at(matte, 100, 60)).toBeLessThan(60)
  })
})

describe('marks', () => {
  it('what is kept hangs together with a keep mark, and what lies nearer to a drop mark is dropped', () => {
    // Four toys of the same make on a carpet; one is wanted.
    const toys: [number, number, Colour][] = [
      [95, 100, [200, 60, 60]],
      [210, 215, [60, 90, 200]],
      [320, 95, [60, 170, 80]],
      [405, 225, [210, 160, 50]],
    ]
    const of = (k: number) => (x: number, y: number) =>
      Math.max(ellipse(x, y, toys[k][0], toys[k][1], 52, 44), ellipse(x, y, toys[k][0], toys[k][1] - 50, 24, 22))
    const scene = drawn(
      of(1),
      (x, y) => lit(toys[1][2], 0.75 + 0.4 * cloud(x, y, 8)),
      (x, y) => {
        const other = [0, 2, 3].find((k) => of(k)(x, y) > 0.5)
        if (other !== undefined) return lit(toys[other][2], 0.75 + 0.4 * cloud(x, y, 8))
        return lit([150, 118, 112], 0.7 + 0.5 * cloud(4 * x, 4 * y, 9))
      },
    )
    const matte = answer(scene, {
      kind: 'marks',
      keep: dots([190, 205], [230, 225], [212, 170], [180, 232], [245, 205]),
      drop: dots([95, 100], [320, 95], [405, 225], [30, 290]),
    })
    expect(overlap(matte, scene.truth)).toBeGreaterThan(0.9)
    for (const k of [0, 2, 3]) expect(at(matte, toys[k][0], toys[k][1])).toBe(0)
  })
  it('one more place where something is missing brings it, and loses nothing', () => {
    // A figure in three colours; the first marks lie on its middle only.
    const figure = (x: number, y: number) =>
      Math.max(ellipse(x, y, 240, 70, 34, 38), rectangle(x, y, 195, 105, 285, 205), rectangle(x, y, 205, 205, 275, 300))
    const scene = drawn(
      figure,
      (_x, y) => (y < 105 ? [200, 160, 130] : y < 205 ? [180, 50, 60] : [40, 50, 90]),
      (x, y) => lit([150, 165, 140], 0.8 + 0.4 * cloud(x, y, 7)),
    )
    const marks = (keep: [number, number][]) => ({
      kind: 'marks',
      keep: dots(...keep),
      drop: dots([40, 40], [440, 280]),
    })
    const one = overlap(answer(scene, marks([[240, 150]])), scene.truth),
      two = overlap(answer(scene, marks([[240, 150], [240, 250]])), scene.truth), // prettier-ignore
      three = overlap(answer(scene, marks([[240, 150], [240, 250], [240, 70]])), scene.truth) // prettier-ignore
    expect(two).toBeGreaterThan(one - 0.02)
    expect(three).toBeGreaterThan(two - 0.02)
    expect(three).toBeGreaterThan(0.93)
  })
  it('a stroke along a thing of several colours keeps all of it', () => {
    const figure = (x: number, y: number) =>
      Math.max(ellipse(x, y, 240, 70, 34, 38), rectangle(x, y, 150, 105, 330, 205), rectangle(x, y, 205, 205, 275, 300))
    const scene = drawn(
      figure,
      (_x, y) => (y < 105 ? [200, 160, 130] : y < 205 ? [190, 60, 70] : [40, 50, 90]),
      (x, y) => lit([150, 165, 140], 0.8 + 0.4 * cloud(x, y, 7)),
    )
    const stroke = (points: [number, number][]) => [{ points, size: 10 }]
    const matte = answer(scene, {
      kind: 'marks',
      keep: stroke([[240, 50], [240, 290]]), // prettier-ignore
      drop: stroke([[30, 40], [90, 60]]), // prettier-ignore
    })
    expect(overlap(matte, scene.truth)).toBeGreaterThan(0.93)
  })
})

describe('several at once', () => {
  it('a box around a thing keeps what is attached to it in another colour', () => {
    const cactus = (x: number, y: number) => Math.max(ellipse(x, y, 240, 210, 45, 95), ellipse(x, y, 240, 105, 30, 22))
    const scene = drawn(
      cactus,
      (x, y) =>
        ellipse(x, y, 240, 105, 30, 22) > 0.5 ? [225, 90, 150] : lit([70, 125, 70], 0.8 + 0.4 * ((x % 12) / 12)),
      (x, y) => lit([205, 190, 160], 0.9 + 0.2 * cloud(x, y, 11)),
    )
    const matte = answer(scene, { kind: 'roughBox', box: [182, 72, 298, 318] })
    expect(at(matte, 240, 105)).toBeGreaterThan(200)
    expect(overlap(matte, scene.truth)).toBeGreaterThan(0.9)
  })
  it('the subject may be more than one of the things that compete', () => {
    const two = (x: number, y: number) => Math.max(ellipse(x, y, 130, 170, 60, 60), ellipse(x, y, 350, 170, 55, 55))
    const scene = drawn(
      two,
      () => [190, 80, 50],
      () => [140, 150, 160],
    )
    const [first, second, both] = [{}, { pick: 1 }, { also: [1] }].map((picks) =>
      answer(scene, { kind: 'subject', ...picks }),
    )
    expect(overlap(first, second)).toBe(0)
    expect(overlap(both, scene.truth)).toBeGreaterThan(0.95)
  })
})
