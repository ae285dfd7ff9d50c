import { describe, expect, it } from 'vitest'
import { type Matte, type Size } from '../raster/picture'
import { plainContext, sceneOf } from '../select/onePicture'
import { foldSteps } from '../select/steps'
import { FINDERS, MODIFIERS, type Step } from '../steps/registry'
import { fieldsOf, parseStep } from './recipe'
import { scaledSteps, stepsOnCanvas } from './scaleSteps'

const SIZE: Size = { width: 120, height: 90 }
const blank = ({ width, height }: Size) => ({
  width,
  height,
  data: new Uint8ClampedArray(width * height * 4).fill(255),
})
const matteOf = (steps: readonly Step[], size: Size): Matte => foldSteps(steps, sceneOf(blank(size)), plainContext())
/** The share of pixels on which two mattes agree, after the larger one is read at the smaller one's places. */
function agreement(small: Matte, large: Matte, x: number, y: number, left = 0, top = 0): number {
  let same = 0,
    all = 0
  for (let v = 0; v < small.height; v++)
    for (let u = 0; u < small.width; u++) {
      const i = Math.floor((u + 0.5) * x + left),
        j = Math.floor((v + 0.5) * y + top)
      if (i < 0 || j < 0 || i >= large.width || j >= large.height) continue
      all++
      if (small.data[v * small.width + u] > 127 === large.data[j * large.width + i] > 127) same++
    }
  return same / all
}

/** Every kind that draws by coordinates, with values that leave no symmetry. */
const DRAWN: readonly object[] = [
  { kind: 'rectangle', x: 20, y: 12, width: 60, height: 40, cornerRadius: 9 },
  { kind: 'ellipse', x: 30, y: 22, width: 70, height: 44 },
  { kind: 'triangle', x: 12, y: 8, width: 80, height: 60 },
  { kind: 'polygon', points: [[10, 12], [100, 20], [60, 80]] }, // prettier-ignore
  { kind: 'path', d: 'M 20 20 C 60 0 110 30 90 70 S 20 90 20 20 Z' },
  { kind: 'band', axis: 'row', start: 20, size: 30 },
  { kind: 'band', axis: 'column', start: 33, size: 41 },
  { kind: 'paint', strokes: [{ points: [[20, 20], [90, 60]], size: 24 }] }, // prettier-ignore
  { kind: 'gradient', shape: 'linear', from: [20, 10], to: [100, 70] },
]

describe('steps on a canvas of another size', () => {
  it.each(DRAWN)('%j grows as the canvas does', (step) => {
    const steps = [parseStep(step)],
      once = matteOf(steps, SIZE)
    // The same shape twice as large; and, where no length has to choose between the two, twice as wide and three times as high.
    for (const [x, y] of 'cornerRadius' in step || 'strokes' in step || 'shape' in step
      ? [[2, 2]]
      : [
          [2, 2],
          [2, 3],
        ]) {
      // prettier-ignore
      const to = { width: SIZE.width * x, height: SIZE.height * y }
      expect(agreement(once, matteOf(stepsOnCanvas(steps, SIZE, to), to), x, y)).toBeGreaterThan(0.99)
    }
  })
  it.each(DRAWN)('%j is moved with the margins that are cut off', (step) => {
    const steps = [parseStep(step)],
      whole = matteOf(steps, SIZE),
      cut = { width: SIZE.width - 16, height: SIZE.height - 10 }
    const moved = matteOf(scaledSteps(steps, { x: 1, y: 1, left: -8, top: -5 }), cut)
    expect(agreement(moved, whole, 1, 1, 8, 5)).toBeGreaterThan(0.999)
  })
  it('a step that turns and moves the selection does so about the same place', () => {
    const turn = [Math.cos(0.4), Math.sin(0.4), -Math.sin(0.4), Math.cos(0.4), 30, -12],
      steps = [parseStep(DRAWN[0]), parseStep({ kind: 'transform', matrix: turn })]
    const to = { width: 360, height: 270 },
      once = matteOf(steps, SIZE)
    expect(agreement(once, matteOf(stepsOnCanvas(steps, SIZE, to), to), 3, 3)).toBeGreaterThan(0.99)
    const cut = { width: 100, height: 80 }
    expect(
      agreement(matteOf(scaledSteps(steps, { x: 1, y: 1, left: -8, top: -5 }), cut), once, 1, 1, 8, 5),
    ).toBeGreaterThan(0.999)
  })
  it('every field in px says how it grows', () => {
    for (const kind of [...Object.keys(FINDERS), ...Object.keys(MODIFIERS)])
      for (const [name, field] of Object.entries(fieldsOf(kind)!))
        if (
          /px|coordinates|path data|six numbers/.test(field.takes) ||
          /^(x|y|width|height|radius|reach|offset|start|size)$/.test(name)
        )
          expect('scaled' in field, `${kind}.${name}`).toBe(true)
  })
  it('on a canvas of the same size they are the very same', () => {
    const steps = DRAWN.map((step) => parseStep(step))
    expect(stepsOnCanvas(steps, SIZE, { ...SIZE })).toBe(steps)
  })
})
