import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseRecipe, parseStep } from '../formats/recipe'
import { type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'

const flat = (width: number, height: number): Picture => ({
  width,
  height,
  data: new Uint8ClampedArray(width * height * 4).fill(200),
})
const fold = (picture: Picture, ...steps: object[]) =>
  foldSteps(
    steps.map((s) => parseStep(s)),
    sceneOf(picture),
    plainContext(),
  ).data
const area = (data: Uint8Array) => data.reduce((s, v) => s + v / 255, 0)
const small = flat(60, 40)

describe('what nobody means to do', () => {
  it.each([
    [{ kind: 'polygon', points: [] }, 0],
    [{ kind: 'polygon', points: [[5, 5]] }, 0],
    [
      {
        kind: 'polygon',
        points: [
          [5, 5],
          [30, 30],
        ],
      },
      0,
    ],
    [
      {
        kind: 'polygon',
        points: [
          [0, 0],
          [20, 20],
          [20, 0],
          [0, 20],
        ],
      },
      200,
    ], // crossing itself: two triangles
    [{ kind: 'rectangle', x: 5, y: 5, width: 0, height: 9 }, 0],
    [{ kind: 'ellipse', x: 5, y: 5, width: 9, height: 0 }, 0],
    [{ kind: 'triangle', x: 5, y: 5, width: 0, height: 0 }, 0],
    [{ kind: 'band', axis: 'row', start: 3, size: 0 }, 0],
    [{ kind: 'path', d: '' }, 0],
    [{ kind: 'path', d: 'M 5 5' }, 0],
    [{ kind: 'path', d: 'M 5 5 L 9 9' }, 0],
    [{ kind: 'rectangle', x: -1e7, y: -1e7, width: 1e7, height: 1e7 }, 0],
    [{ kind: 'rectangle', x: -5e6, y: -5e6, width: 1e7, height: 1e7 }, 2400],
    [{ kind: 'paint', strokes: [{ points: [[30, 20]], size: 20_000 }] }, 2400],
    [
      {
        kind: 'paint',
        strokes: [
          {
            points: [
              [30, 20],
              [31, 20],
            ],
            size: 9000,
            hardness: 0.98,
          },
        ],
      },
      2400,
    ],
    [{ kind: 'paint', strokes: [{ points: [], size: 9 }] }, 0],
    [{ kind: 'similarColour', at: [5, 5], tolerance: 0 }, 2400],
    [{ kind: 'similarColour', at: [5, 5], tolerance: 255 }, 2400],
    [{ kind: 'similarColour', at: [-5, 5] }, 0],
    [{ kind: 'similarColour', at: [5, 40] }, 0],
    [{ kind: 'palette', colours: [] }, 0],
    [{ kind: 'palette', colours: [[200, 200, 200]], spread: 0 }, 2400],
  ])('%j covers %d px', (step, wanted) => {
    expect(area(fold(small, step))).toBeCloseTo(wanted, 0)
  })

  it.each([
    [{ kind: 'path', d: 'M NaN 0 L 3 3' }, 'takes SVG path data'],
    [
      { kind: 'path', d: 'M 0 0 L 1e9 3' },
      'takes SVG path data (M L H V C S Q T A Z) with coordinates from -10000000 to 10000000',
    ],
    [
      {
        kind: 'polygon',
        points: [
          [0, 0],
          [1e9, 0],
          [5, 5],
        ],
      },
      'takes a list of up to 100000 points',
    ],
    [{ kind: 'polygon', points: [[0, null]] }, 'takes a list of up to'],
    [{ kind: 'rectangle', x: 0, y: 0, width: -3, height: 9 }, 'width: takes a number of px from 0'],
    [{ kind: 'colourSpot', at: [3, 3], radius: -1 }, 'radius: takes a number of px from 0'],
    [{ kind: 'paint', strokes: [{ points: [[0, 0]], size: 1e6 }] }, 'takes a list of strokes'],
    [{ kind: 'transform', matrix: [1, 0, 0, 1, 1e9, 0] }, 'matrix: takes six numbers'],
    [{ kind: 'saved', selection: 7 }, 'takes a text'],
  ])('%j is refused in a sentence', (step, sentence) => {
    expect(() => parseRecipe({ version: 1, steps: [step] })).toThrow(sentence)
  })

  it('every finder and modifier works on a picture of one pixel, of one row and of one column', () => {
    const steps: object[] = [
      { kind: 'rectangle', x: 0, y: 0, width: 20_000, height: 20_000 },
      { kind: 'ellipse', x: -9, y: -9, width: 40_000, height: 40_000, op: 'intersect' },
      { kind: 'similarColour', at: [0.5, 0.5] },
      { kind: 'palette', colours: [[200, 200, 200]] },
      { kind: 'colourSpot', at: [0.5, 0.5], radius: 40_000, core: 1 },
      {
        kind: 'paint',
        strokes: [
          {
            points: [
              [0, 0],
              [20_000, 20_000],
            ],
            size: 80,
          },
        ],
      },
      { kind: 'path', d: 'M0 0H30000V30000H0Z' },
      { kind: 'grow', by: 3 },
      { kind: 'feather', radius: 2 },
      { kind: 'smooth', radius: 2 },
      { kind: 'fillHoles' },
      { kind: 'dropSpecks', maxArea: 0 },
      { kind: 'transform', matrix: [1, 0, 0, 1, 0, 0] },
      { kind: 'limitColour', colours: [[200, 200, 200]], spread: 24, softness: 0.5 },
    ]
    for (const [width, height] of [
      [1, 1],
      [20_000, 1],
      [1, 20_000],
    ])
      expect(fold(flat(width, height), ...steps)[0]).toBe(255)
  })
  it('inverting twice is nothing done (common practice), and a saved selection is its own steps', () => {
    const box = { kind: 'rectangle', x: 3.3, y: 4, width: 20, height: 9.5 }
    expect(fold(small, box, { kind: 'invert' }, { kind: 'invert' })).toEqual(fold(small, box))
    const saved = parseRecipe({ version: 1, steps: [box, { kind: 'feather', radius: 4 }] })
    const scene = {
      ...sceneOf(small),
      saved: (name: string) =>
        name === 'Left'
          ? { identity: 'left', matte: () => foldSteps(saved.steps, sceneOf(small), plainContext()) }
          : undefined,
    }
    const load = (selection: string) => foldSteps([parseStep({ kind: 'saved', selection })], scene, plainContext()).data
    expect(load('Left')).toEqual(fold(small, box, { kind: 'feather', radius: 4 }))
    expect(() => load('Right')).toThrow('There is no saved selection “Right” in this project.')
    expect(() => foldSteps([parseStep({ kind: 'saved', selection: 'Left' })], sceneOf(small), plainContext())).toThrow(
      'kept with a project',
    )
  })
  it('a brush stroke is the same whether its stamp is kept or made row by row', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3985, max: 4015 }), fc.constantFrom(1, 0.999, 0.995), (size, hardness) => {
        // On either side of the size from which stamps are not kept, coverage changes no more than the size does.
        const at = (s: number) =>
          fold(small, { kind: 'paint', strokes: [{ points: [[30, -s / 2 + 20]], size: s, hardness }] })
        const a = at(size),
          b = at(size + 1)
        a.forEach((v, i) => expect(Math.abs(v - b[i])).toBeLessThanOrEqual(130))
        expect(a.some((v) => v > 0) && a.some((v) => v < 255)).toBe(true)
      }),
      { numRuns: 12 },
    )
  })
})
