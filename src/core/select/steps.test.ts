import fc from '../../../tests/properties'
import { describe, expect, it, vi } from 'vitest'
import { RecordError } from '../fields/record'
import { parseRecipe, parseStep } from '../formats/recipe'
import { type Matte, type Picture } from '../raster/picture'
import { LruCache } from '../cache/lruCache'
import { plainContext, sceneOf } from './onePicture'
import { rectangleOutline } from './rectangle'
import { roughBox } from './roughBox'
import { spread } from './spread'
import { type Step } from '../steps/registry'
import { foldSteps } from './steps'

const noise: Picture = {
  width: 50,
  height: 40,
  data: Uint8ClampedArray.from({ length: 8000 }, (_, i) => (i % 4 === 3 ? 255 : (i * 7919) % 253)),
}
const scene = sceneOf(noise)
const fold = (steps: unknown[], context = plainContext()): Matte =>
  foldSteps(
    steps.map((s) => parseStep(s)),
    scene,
    context,
  )
const box = (x: number, y: number, width: number, height: number, more: object = {}) => ({
  kind: 'rectangle',
  x,
  y,
  width,
  height,
  ...more,
})
const area = (m: Matte) => m.data.reduce((s, v) => s + v / 255, 0)
const boxes = fc.record({
  x: fc.double({ min: -10, max: 45, noNaN: true }),
  y: fc.double({ min: -10, max: 35, noNaN: true }),
  width: fc.double({ min: 0, max: 40, noNaN: true }),
  height: fc.double({ min: 0, max: 40, noNaN: true }),
  rotation: fc.double({ min: 0, max: 360, noNaN: true }),
  op: fc.constantFrom('add', 'subtract', 'intersect'),
})

describe('folding steps', () => {
  it('adds, subtracts and intersects in order', () => {
    expect(area(fold([box(0, 0, 10, 10), box(5, 0, 10, 10)]))).toBeCloseTo(150)
    expect(area(fold([box(0, 0, 10, 10), box(5, 0, 10, 10, { op: 'subtract' })]))).toBeCloseTo(50)
    expect(area(fold([box(0, 0, 10, 10), box(5, 0, 10, 10, { op: 'intersect' })]))).toBeCloseTo(50)
    expect(area(fold([box(0, 0, 10, 10), { kind: 'invert' }]))).toBeCloseTo(50 * 40 - 100)
  })
  it('subtracting a shape from itself leaves nothing, feathered or not (no ghost rim)', () => {
    fc.assert(
      fc.property(boxes, fc.constantFrom(0, 3, 12), (b, feather) => {
        const step = { kind: 'rectangle', ...b, feather, op: 'add' }
        expect(area(fold([step, { ...step, op: 'subtract' }]))).toBe(0)
      }),
      { numRuns: 40 },
    )
  })
  it('hidden steps do nothing, and a step inverted twice is itself', () => {
    const plain = fold([box(3, 3, 20, 12)])
    expect(fold([box(3, 3, 20, 12), box(0, 0, 50, 40, { hidden: true })]).data).toEqual(plain.data)
    expect(fold([box(3, 3, 20, 12), { kind: 'invert' }, { kind: 'invert' }]).data).toEqual(plain.data)
    expect(fold([box(3, 3, 20, 12, { invert: true }), { kind: 'invert' }]).data).toEqual(plain.data)
  })
  it('the answer does not depend on what was remembered', () => {
    const remembering = plainContext()
    fc.assert(
      fc.property(fc.array(boxes, { maxLength: 6 }), (list) => {
        const steps = list.map((b) => ({ kind: 'rectangle', ...b }))
        expect(fold(steps, remembering).data).toEqual(fold(steps).data)
      }),
      { numRuns: 60 },
    )
  })
  it('for a draft only those answer quickly that make drafts: what others answer is kept as the true answer', () => {
    const asked = [roughBox, spread].map((finder) => vi.spyOn(finder, 'find')),
      stroke = { points: [[20, 20]], size: 9, mode: 'keep' }
    fold(
      [
        { kind: 'roughBox', box: [5, 5, 40, 35] },
        { kind: 'spread', strokes: [stroke] },
      ],
      {
        ...plainContext(),
        draft: true,
      },
    )
    expect(asked.map(({ mock }) => mock.calls.map(([, , { draft }]) => draft))).toEqual([[false], [true]])
    for (const spy of asked) spy.mockRestore()
  })
  it('a change of step k of twenty recomputes only k and the fold after it', () => {
    const steps = Array.from({ length: 20 }, (_, i) => parseStep(box(i, i, 9, 9)))
    const done: { index: number; remembered: boolean }[] = []
    const context = {
      ...plainContext(),
      stepDone: (index: number, _kind: string, _ms: number, remembered: boolean) => {
        done.push({ index, remembered })
      },
    }
    foldSteps(steps, scene, context)
    expect(done.filter((d) => !d.remembered)).toHaveLength(20)
    done.length = 0
    const changed = steps.map((s, i): Step => (i === 12 ? parseStep(box(2, 2, 30, 3)) : s))
    foldSteps(changed, scene, context)
    expect(done.filter((d) => !d.remembered).map((d) => d.index)).toEqual([12])
    expect(done.map((d) => d.index)).toEqual([12, 13, 14, 15, 16, 17, 18, 19])
  })
  it('dragging one colour pick does not find the others again, prepared or not', () => {
    const picks = (tolerance: number) =>
      [tolerance, 20, 30].map((t, i) => parseStep({ kind: 'similarColour', at: [5 + 12 * i, 9], tolerance: t }))
    const found: number[] = []
    const context = {
      ...plainContext(),
      stepDone: (index: number, _kind: string, _ms: number, remembered: boolean) => {
        if (!remembered) found.push(index)
      },
    }
    foldSteps(picks(10), scene, context)
    found.length = 0
    for (const tolerance of [11, 12, 13])
      expect(foldSteps(picks(tolerance), scene, context).data).toEqual(
        foldSteps(picks(tolerance), scene, plainContext()).data,
      )
    expect(found).toEqual([0, 0, 0])
  })
  it('a feathered rectangle keeps half coverage on its edge; grow moves a step before it is feathered', () => {
    const soft = fold([box(10, 5, 25, 30, { feather: 6 })])
    const mid = (soft.data[20 * 50 + 9] + soft.data[20 * 50 + 10]) / 2
    expect(Math.abs(mid - 127.5)).toBeLessThan(2)
    expect(area(fold([box(20, 15, 10, 10, { grow: 2 })]))).toBeCloseTo(14 * 14 - (4 - Math.PI) * 4, -0.7)
    expect(area(fold([box(20, 15, 10, 10, { grow: -2 })]))).toBeCloseTo(36, 5)
  })
  it('rounded corners take (4 − π) r² off the area; at most half the shorter side counts', () => {
    expect(area(fold([box(4, 4, 30, 20, { cornerRadius: 8 })]))).toBeCloseTo(600 - (4 - Math.PI) * 64, 0)
    expect(area(fold([box(4, 4, 20, 20, { cornerRadius: 500 })]))).toBeCloseTo(Math.PI * 100, -0.4)
    expect(
      rectangleOutline({ x: 0, y: 0, width: 4, height: 2, rotation: 90, cornerRadius: 0 })[0].map(Math.round),
    ).toEqual([3, -1])
  })
})

describe('the recipe contract', () => {
  it('fills in the documented defaults', () => {
    expect(parseStep({ kind: 'similarColour', at: [3, 4] })).toEqual({
      kind: 'similarColour',
      at: [3, 4],
      tolerance: 32,
      contiguous: true,
      patch: 1,
      metric: 'channel',
      antialias: true,
      sample: 'all',
      op: 'add',
      feather: 0,
      grow: 0,
      invert: false,
      hidden: false,
    })
    expect(parseStep({ kind: 'invert' })).toEqual({ kind: 'invert', hidden: false })
  })
  it.each([
    [
      { version: 1, steps: [{ kind: 'rectangle', x: 0, y: 0, width: 5 }] },
      'steps[0].height: is missing; it takes a number of px from 0',
    ],
    [
      { version: 1, steps: [{ kind: 'invert' }, { kind: 'similarColour', at: [1, 2], tolerance: 300 }] },
      'steps[1].tolerance: takes a number from 0 to 255, not 300',
    ],
    [
      { version: 1, steps: [{ kind: 'nonesuch' }] },
      'steps[0].kind: "nonesuch" is not a kind of step; the kinds are rectangle',
    ],
    [
      { version: 1, steps: [{ kind: 'grow', by: 3, radius: 2 }] },
      'steps[0].radius: grow has no such field; it takes by',
    ],
    [
      { version: 1, steps: [{ kind: 'similarColour', at: [1, null] }] },
      'steps[0].at: takes [x, y], two numbers in px, not [1,null]',
    ],
    [
      { version: 1, steps: [{ kind: 'similarColour', at: [1, 2], patch: 2 }] },
      'steps[0].patch: takes one of 1, 3, 5, not 2',
    ],
    [{ version: 2, steps: [] }, 'version: takes 1, not 2'],
    [{ version: 1, steps: 'all' }, 'steps: takes a list of steps, not "all"'],
    [{ version: 1, steps: [{ kind: 'constructor' }] }, 'steps[0].kind: "constructor" is not a kind'],
    [[], 'recipe: a recipe is an object'],
  ])('refuses %j with the path and what it takes', (input, sentence) => {
    expect(() => parseRecipe(input)).toThrow(RecordError)
    expect(() => parseRecipe(input)).toThrow(sentence)
  })
  it('what it accepts once it accepts again, unchanged', () => {
    fc.assert(
      fc.property(fc.array(boxes, { maxLength: 4 }), (list) => {
        const recipe = parseRecipe({ version: 1, steps: list.map((b) => ({ kind: 'rectangle', ...b })) })
        expect(JSON.stringify(parseRecipe(JSON.parse(JSON.stringify(recipe))))).toBe(JSON.stringify(recipe))
      }),
    )
  })
})

describe('bounded memory', () => {
  it('stays within its bytes, lets the least recently used go first, and keeps nothing larger than itself', () => {
    const memory = new LruCache(100)
    memory.set('a', 1, 40)
    memory.set('b', 2, 40)
    memory.get('a')
    memory.set('c', 3, 40)
    expect([memory.get('a'), memory.get('b'), memory.get('c'), memory.bytes]).toEqual([1, undefined, 3, 80])
    memory.set('huge', 4, 101)
    expect(memory.get('huge')).toBeUndefined()
    expect(memory.get('a')).toBe(1)
  })
})
