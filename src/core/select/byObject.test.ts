import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { overlap } from '../matting/errors'
import { emptyMatte, type Picture } from '../raster/picture'
import { type Point } from '../vector/fill'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'
import {
  WIDTH,
  HEIGHT,
  paint,
  disc,
  truth,
  thing,
  uniform,
  run,
  found,
  dots,
  loose,
  wide,
} from '../../../tests/setups/thing'

describe('finders by object find a thing on a shaded wall', () => {
  it.each<[string, object, number]>([
    ['rough box', { kind: 'roughBox', box: [80, 30, 290, 215] }, 0.97],
    ['rough box drawn from the lower right', { kind: 'roughBox', box: [290, 215, 80, 30] }, 0.97],
    [
      'rough loop',
      {
        kind: 'roughBox',
        outline: [
          [80, 40],
          [285, 35],
          [290, 200],
          [90, 215],
        ],
      },
      0.97,
    ],
    ['marks', { kind: 'marks', keep: dots([180, 120], [230, 120]), drop: dots([20, 20], [340, 220]) }, 0.97],
    ['marks inside an outline only', { kind: 'marks', outline: loose, keep: dots([180, 120]) }, 0.95],
    [
      'spread',
      {
        kind: 'spread',
        strokes: [
          {
            points: [
              [150, 120],
              [220, 125],
            ],
            size: 14,
            mode: 'keep',
          },
        ],
      },
      0.97,
    ],
    ['subject', { kind: 'subject' }, 0.97],
    ['edge band', { kind: 'edgeBand', points: wide, width: 24 }, 0.97],
    ['regions', { kind: 'regions', at: [[180, 120]], detail: 0.15 }, 0.95],
    ['live wire', { kind: 'liveWire', anchors: Array.from({ length: 9 }, (_, k) => disc[k * 10]), reach: 16 }, 0.98],
  ])('%s', (_, step, least) => {
    expect(overlap(run(thing, step).matte, truth)).toBeGreaterThan(least)
  })

  it.each<[string, object]>([
    ['rough box', { kind: 'roughBox', box: [80, 30, 290, 215] }],
    ['marks', { kind: 'marks', keep: dots([180, 120], [230, 120]), drop: dots([20, 20], [340, 220]) }],
    ['subject', { kind: 'subject' }],
    ['regions', { kind: 'regions', at: [[180, 120]], detail: 0.15 }],
  ])('%s, without the network', (_, step) => {
    expect(overlap(run(thing, step, false).matte, truth)).toBeGreaterThan(0.95)
  })

  it('the outline of a rough box taken as drawn is the box', () => {
    const box = emptyMatte(thing)
    for (let y = 40; y < 200; y++) box.data.fill(255, y * WIDTH + 90, y * WIDTH + 290)
    expect(run(thing, { kind: 'roughBox', box: [90, 40, 290, 200], analyse: false }).matte.data).toEqual(box.data)
  })

  it('an opening that shows the wall stays open', () => {
    const ring = paint((x, y) => {
      const r = Math.hypot(x - 180, y - 120)
      return r < 80 && r > 40 ? [40, 100, 60] : [170, 170, 185]
    })
    const { matte } = run(ring, { kind: 'roughBox', box: [80, 20, 280, 220] })
    expect(matte.data[120 * WIDTH + 180]).toBe(0)
    expect(matte.data[120 * WIDTH + 240]).toBe(255)
  })

  it('edge paint stops at the edge under the brush, and covers all of it without one', () => {
    const half = paint((x) => (x < 180 ? [60, 80, 120] : [200, 180, 120]), 4)
    const stroke = {
      points: [
        [165, 60],
        [165, 180],
      ],
      size: 60,
    }
    const { matte } = run(half, { kind: 'edgePaint', strokes: [stroke], sensitivity: 0.5 })
    expect(matte.data[120 * WIDTH + 176]).toBeGreaterThan(250)
    expect(matte.data[120 * WIDTH + 184]).toBe(0)
    expect(matte.data[120 * WIDTH + 130]).toBe(0) // beyond the brush
    expect(run(uniform, { kind: 'edgePaint', strokes: [stroke] }).matte.data[120 * WIDTH + 190]).toBe(255)
  })

  it('the edge band’s offset moves the edge it found', () => {
    const area = (offset: number) =>
      found(run(thing, { kind: 'edgeBand', points: wide, width: 24, offset }).matte) * WIDTH * HEIGHT
    const inside = area(0),
      perimeter = 400
    expect(area(4) - inside).toBeGreaterThan(3 * perimeter)
    expect(inside - area(-4)).toBeGreaterThan(3 * perimeter)
  })

  it.each<[string, object]>([
    [
      'spread',
      {
        kind: 'spread',
        strokes: [
          {
            points: [
              [150, 120],
              [220, 125],
            ],
            size: 14,
            mode: 'keep',
          },
        ],
      },
    ],
    ['marks', { kind: 'marks', keep: dots([180, 120], [230, 120]), drop: dots([20, 20], [340, 220]) }],
    ['regions', { kind: 'regions', at: [[180, 120]], detail: 0.15 }],
  ])('%s shows a draft while a stroke is drawn, near what comes after, and never in its place', (_, step) => {
    // Three times as large, so that it is thought on at a smaller level.
    const large: Picture = { width: 3 * WIDTH, height: 3 * HEIGHT, data: new Uint8ClampedArray(9 * thing.data.length) },
      from = new Uint32Array(thing.data.buffer),
      to = new Uint32Array(large.data.buffer)
    for (let y = 0; y < large.height; y++)
      for (let x = 0; x < large.width; x++)
        to[y * large.width + x] = from[Math.floor(y / 3) * WIDTH + Math.floor(x / 3)]
    const tripled = JSON.parse(JSON.stringify(step), (name, value: unknown) =>
      name === 'points' || name === 'at'
        ? (value as Point[]).map(([x, y]) => [3 * x, 3 * y])
        : name === 'size'
          ? 3 * (value as number)
          : value,
    ) as object
    const context = plainContext(),
      scene = sceneOf(large),
      draft = foldSteps([parseStep(tripled)], scene, { ...context, draft: true }),
      full = foldSteps([parseStep(tripled)], scene, context)
    expect(overlap(draft, full)).toBeGreaterThan(0.95)
    expect(full.data).not.toEqual(draft.data)
    // Once it is known, it stays while anything is moved.
    expect(foldSteps([parseStep(tripled)], scene, { ...context, draft: true }).data).toEqual(full.data)
    const beside = [parseStep(tripled), parseStep({ kind: 'rectangle', x: 0, y: 0, width: 9, height: 9 })]
    expect(foldSteps(beside, scene, { ...context, draft: true }).data).toEqual(foldSteps(beside, scene, context).data)
  })

  it('unsure marks are solved as a matte: a soft ramp between keep and drop comes out as one', () => {
    const ramp = paint((x) => {
      const t = Math.max(0, Math.min(1, (x - 150) / 60))
      const mixed = (from: number, to: number) => byteOfLinear(LINEAR_OF_BYTE[from] * (1 - t) + LINEAR_OF_BYTE[to] * t)
      return [mixed(40, 200), mixed(120, 80), mixed(150, 60)]
    }, 0)
    const band = {
      points: [
        [180, 10],
        [180, 230],
      ],
      size: 76,
    }
    const solved = (solver: string) => {
      const { matte } = run(ramp, {
        kind: 'marks',
        keep: dots([300, 120]),
        drop: dots([40, 120]),
        unsure: [band],
        solver,
      })
      return (x: number) => matte.data[120 * WIDTH + x] / 255
    }
    const closedForm = solved('closedForm'),
      sampling = solved('sampling')
    for (const x of [160, 180, 200]) expect(Math.abs(closedForm(x) - (x - 150) / 60)).toBeLessThan(0.03)
    for (const x of [160, 180, 200]) expect(Math.abs(sampling(x) - (x - 150) / 60)).toBeLessThan(0.03)
  })

  it('a box around everything finds the thing; without the network it asks for space', () => {
    const step = { kind: 'roughBox', box: [0, 0, WIDTH, HEIGHT] }
    expect(overlap(run(thing, step).matte, truth)).toBeGreaterThan(0.95)
    expect(run(thing, step, false).note).toMatch(/nothing around it/)
  })

  it('regions at two things are both of them, at two places of one thing that thing', () => {
    const discAt = (u: number) => (x: number, y: number) => Math.hypot(x - u, y - 120) < 45,
      two = paint((x, y) => (discAt(100)(x, y) ? [190, 80, 50] : discAt(260)(x, y) ? [40, 90, 140] : [150, 160, 150])),
      truthOf = (...us: number[]) => {
        const matte = emptyMatte(two)
        for (let i = 0; i < matte.data.length; i++)
          if (us.some((u) => discAt(u)(i % WIDTH, Math.floor(i / WIDTH)))) matte.data[i] = 255
        return matte
      },
      at = (...places: Point[]) => run(two, { kind: 'regions', at: places, detail: 0.3 }).matte
    expect(overlap(at([100, 120], [260, 120]), truthOf(100, 260))).toBeGreaterThan(0.95)
    expect(overlap(at([80, 120], [120, 130]), truthOf(100))).toBeGreaterThan(0.95)
  })

  it.each([true, false])('regions at a thing are all of it, finer a part of it; the network: %s', (network) => {
    const striped = paint((x, y) =>
        truth.data[y * WIDTH + x] > 127
          ? Math.floor(x / 14) % 2
            ? [190, 80, 50]
            : [150, 60, 70]
          : [150 - x / 12, 160 - x / 12, 150],
      ),
      at = (detail: number) => run(striped, { kind: 'regions', at: [[175, 120]], detail }, network).matte
    expect(overlap(at(0.1), truth)).toBeGreaterThan(0.95)
    const part = at(0.7)
    expect(part.data[120 * WIDTH + 175]).toBe(255)
    expect(found(part)).toBeLessThan(0.3 * found(truth))
    expect(part.data.every((v, i) => v < 128 || truth.data[i] > 0)).toBe(true)
  })

  it.each([true, false])('regions at a thing that the border cuts are all of it; the network: %s', (network) => {
    const cut = (x: number, y: number) => Math.hypot(x - WIDTH, y - HEIGHT) < 130,
      striped = paint((x, y) =>
        cut(x, y) ? (Math.floor(x / 16) % 2 ? [190, 80, 50] : [60, 70, 130]) : [150 - x / 12, 160 - x / 12, 150],
      ),
      all = emptyMatte(striped)
    for (let i = 0; i < all.data.length; i++) if (cut(i % WIDTH, Math.floor(i / WIDTH))) all.data[i] = 255
    const { matte } = run(striped, { kind: 'regions', at: [[310, 195]], detail: 0.1 }, network)
    expect(overlap(matte, all)).toBeGreaterThan(0.95)
  })

  it.each([3, 5])('subject is a thing so small that its outline is all there is of it, %s px', (radius) => {
    const dot = (x: number, y: number) => Math.hypot(x - 200, y - 100) < radius,
      sky = paint((x, y) => (dot(x, y) ? [60, 50, 40] : [150 + x / 12, 170, 200 - y / 6]), 8, radius),
      all = emptyMatte(sky)
    for (let i = 0; i < all.data.length; i++) if (dot(i % WIDTH, Math.floor(i / WIDTH))) all.data[i] = 255
    expect(overlap(run(sky, { kind: 'subject' }).matte, all)).toBeGreaterThan(0.9)
  })

  it('two things compete: each pick is one of them', () => {
    const two = paint((x, y) =>
      Math.hypot(x - 100, y - 120) < 45 || Math.hypot(x - 260, y - 120) < 45 ? [190, 80, 50] : [140, 150, 160],
    )
    const first = run(two, { kind: 'subject' }),
      second = run(two, { kind: 'subject', pick: 1 })
    expect(first.note).toMatch(/2 things compete/)
    expect(overlap(first.matte, second.matte)).toBe(0)
    expect(found(first.matte)).toBeCloseTo((Math.PI * 45 ** 2) / (WIDTH * HEIGHT), 2)
  })
})
