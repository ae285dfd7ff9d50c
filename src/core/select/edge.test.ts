/** The edge step and trimaps on a picture whose matte is known, and on input without an answer. */
import { describe, expect, it } from 'vitest'
import { parseRecipe } from '../formats/recipe'
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { type Matte, type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps, stepNotes } from './steps'

const WIDTH = 160,
  HEIGHT = 120,
  F = [190, 110, 50],
  B = [90, 110, 160]
/** A disc whose edge is soft over 16 px, with three hairs that reach 30 px beyond it. */
const truthAt = (x: number, y: number) => {
  const disc = (40 - Math.hypot(x - 70, y - 60)) / 16 + 0.5,
    hair = x > 70 && x < 140 && [40, 60, 80].some((row) => Math.abs(y - row) < 1.2) ? 1 : 0
  return Math.max(0, Math.min(1, Math.max(disc, hair)))
}
const photo: Picture = { width: WIDTH, height: HEIGHT, data: new Uint8ClampedArray(WIDTH * HEIGHT * 4) }
for (let y = 0; y < HEIGHT; y++)
  for (let x = 0; x < WIDTH; x++) {
    const t = truthAt(x + 0.5, y + 0.5),
      o = (y * WIDTH + x) * 4,
      grain = (((x * 131 + y * 197) % 17) - 8) * 0.0006
    for (let c = 0; c < 3; c++)
      photo.data[o + c] = byteOfLinear(t * LINEAR_OF_BYTE[F[c]] + (1 - t) * LINEAR_OF_BYTE[B[c]] + grain)
    photo.data[o + 3] = 255
  }
const truth = Uint8Array.from(
  { length: WIDTH * HEIGHT },
  (_, i) => 255 * truthAt((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5),
)
const trimapOf = (value: (i: number) => number): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255)
  for (let i = 0; i < WIDTH * HEIGHT; i++) data.fill(value(i), 4 * i, 4 * i + 3)
  return { width: WIDTH, height: HEIGHT, data }
}
const images = new Map([
  [
    'good.png',
    trimapOf((i) =>
      Math.hypot((i % WIDTH) - 70, Math.floor(i / WIDTH) - 60) < 28
        ? 255
        : truth[i] > 0 || Math.hypot((i % WIDTH) - 70, Math.floor(i / WIDTH) - 60) < 56
          ? 128
          : 0,
    ),
  ],
  ['sure.png', trimapOf((i) => (truth[i] > 127 ? 255 : 0))],
  ['unsure.png', trimapOf(() => 128)],
  ['whitish.png', trimapOf((i) => (i % WIDTH < 80 ? 255 : 128))],
])
const run = (...steps: object[]): { matte: Matte; notes: (string | undefined)[]; solved: string[] } => {
  const recipe = parseRecipe({ version: 1, steps }),
    scene = sceneOf(photo, 'test', images),
    solved: string[] = [],
    context = {
      ...plainContext(1 << 26),
      stepDone: (_: number, kind: string) => {
        solved.push(kind)
      },
    }
  return { matte: foldSteps(recipe.steps, scene, context), notes: stepNotes(recipe.steps, scene, context), solved }
}
const error = ({ data }: Matte) =>
  data.reduce((sum, v, i) => sum + ((v - truth[i]) / 255) ** 2, 0) /
  data.reduce((n, _, i) => n + (truth[i] > 0 && truth[i] < 255 ? 1 : 0), 0)
const disc = { kind: 'ellipse', x: 32, y: 22, width: 76, height: 76, antialias: false }

describe('the edge step', () => {
  it('turns a hard disc into the soft one, and follows the hairs that cross the band', () => {
    const hard = error(run(disc).matte),
      { matte } = run(disc, { kind: 'edge', reach: 14 })
    expect(error(matte)).toBeLessThan(hard / 8)
    expect(matte.data[60 * WIDTH + 130]).toBeGreaterThan(150) // a hair, 22 px beyond the band
    expect(run(disc, { kind: 'edge', reach: 14, follow: false }).matte.data[60 * WIDTH + 136]).toBe(0)
  })
  it('strokes: unsure opens what they cover, keep and drop pin it', () => {
    const base = [disc, { kind: 'edge', reach: 6, follow: false }] as const,
      hair = {
        points: [
          [110, 60],
          [138, 60],
        ],
        size: 12,
        mode: 'unsure',
      }
    expect(run(...base).matte.data[60 * WIDTH + 128]).toBe(0)
    expect(run(disc, { ...base[1], strokes: [hair] }).matte.data[60 * WIDTH + 128]).toBeGreaterThan(150)
    const pinned = run(disc, {
      ...base[1],
      strokes: [hair, { points: [[128, 60]], size: 8, mode: 'drop' }, { points: [[20, 20]], size: 8, mode: 'keep' }],
    }).matte
    expect(pinned.data[60 * WIDTH + 128]).toBe(0)
    expect(pinned.data[20 * WIDTH + 20]).toBe(255)
  })
  it('a stroke changes nothing far away, and gives the same whether strokes came one by one or all at once', () => {
    const strokes = [
        {
          points: [
            [110, 60],
            [138, 60],
          ],
          size: 12,
          mode: 'unsure',
        },
        { points: [[70, 20]], size: 10, mode: 'drop' },
      ],
      steps = (n: number) =>
        parseRecipe({ version: 1, steps: [disc, { kind: 'edge', reach: 8, strokes: strokes.slice(0, n) }] }).steps
    const context = plainContext(1 << 26),
      scene = sceneOf(photo, 'test', images),
      before = foldSteps(steps(0), scene, context).data.slice()
    foldSteps(steps(1), scene, context)
    const oneByOne = foldSteps(steps(2), scene, context).data
    expect(oneByOne).toEqual(foldSteps(steps(2), scene, plainContext(1 << 26)).data)
    for (let i = 0; i < before.length; i++)
      if (i % WIDTH < 40 && Math.floor(i / WIDTH) > 60) expect(oneByOne[i]).toBe(before[i])
  })
  it('shaping does not solve again: crispness makes it all or nothing, offset moves it, feather softens it, and back at none it is as it was', () => {
    const recipe = (values: object) =>
        parseRecipe({ version: 1, steps: [disc, { kind: 'edge', reach: 14, ...values }] }).steps,
      context = plainContext(1 << 26),
      scene = sceneOf(photo, 'test', images)
    const plain = foldSteps(recipe({}), scene, context).data.slice(),
      area = (data: Uint8Array) => data.reduce((s, v) => s + v, 0) / 255
    expect(foldSteps(recipe({ crispness: 1 }), scene, context).data.every((v) => v === 0 || v === 255)).toBe(true)
    expect(area(foldSteps(recipe({ offset: 3 }), scene, context).data)).toBeGreaterThan(area(plain) + 3 * 200)
    expect(area(foldSteps(recipe({ offset: -3 }), scene, context).data)).toBeLessThan(area(plain) - 3 * 200)
    expect(foldSteps(recipe({ feather: 6 }), scene, context).data).not.toEqual(plain)
    expect(foldSteps(recipe({}), scene, context).data).toEqual(plain)
  })
  it('smooth rounds hard corners and leaves soft parts', () => {
    const box = { kind: 'rectangle', x: 30, y: 30, width: 60, height: 50, antialias: false },
      { matte } = run(box, { kind: 'edge', reach: 0, smooth: 12 })
    expect(matte.data[30 * WIDTH + 30]).toBeLessThan(128)
    expect(matte.data[55 * WIDTH + 31]).toBe(255)
    const soft = run(disc, { kind: 'edge', reach: 14 }).matte,
      smoothed = run(disc, { kind: 'edge', reach: 14, smooth: 8 }).matte
    for (let y = 55; y < 65; y++)
      expect(Math.abs(smoothed.data[y * WIDTH + 30] - soft.data[y * WIDTH + 30])).toBeLessThan(12)
  })
  it.each([
    ['an empty selection', [{ kind: 'none' }], 0, /nothing is selected/],
    ['a full one', [{ kind: 'all' }], 255, /everything is selected/],
  ])('%s has no edge, and says so', (_, first, value, words) => {
    const { matte, notes } = run(...first, { kind: 'edge' })
    expect(matte.data.every((v) => v === value)).toBe(true)
    expect(notes.at(-1)).toMatch(words)
  })
  it('a reach wider than the picture leaves nothing to go by, and is still defined', () => {
    const { matte } = run(disc, { kind: 'edge', reach: 900 })
    expect(matte.data).toHaveLength(WIDTH * HEIGHT)
    expect(matte.data[60 * WIDTH + 70]).toBeGreaterThan(matte.data[4 * WIDTH + 4] - 1)
  })
})

describe('a trimap', () => {
  it.each(['closedForm', 'sampling'])('is solved by %s: within 0.03 on average where it was open', (solver) => {
    expect(error(run({ kind: 'trimap', asset: 'good.png', solver }).matte)).toBeLessThan(0.01)
  })
  it('without anything open it is taken as it is', () => {
    expect(run({ kind: 'trimap', asset: 'sure.png' }).matte.data).toEqual(truth.map((v) => (v > 127 ? 255 : 0)))
  })
  it.each(['unsure.png', 'whitish.png'])('%s lacks a side: nothing is found, and it says so', (asset) => {
    const { matte, notes } = run({ kind: 'trimap', asset, solver: 'sampling' })
    expect(matte.data.every((v) => v === 0)).toBe(true)
    expect(notes[0]).toMatch(/^Nothing found, because nothing in the trimap is surely (in|out)side/)
  })
  it('one that lacks a side is guessed at with the network, and it says so', () => {
    const { matte, notes } = run({ kind: 'trimap', asset: 'whitish.png' })
    expect(matte.data.some((v) => v > 0)).toBe(true)
    expect(notes[0]).toMatch(/coverage is a guess/)
  })
  it('one that is not there is refused', () => {
    expect(() => run({ kind: 'trimap', asset: 'gone.png' })).toThrow(/gone\.png/)
  })
})
