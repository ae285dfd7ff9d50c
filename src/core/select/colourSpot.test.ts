import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { type Picture } from '../raster/picture'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'

const width = 160,
  height = 120
/** Left half red, right half blue; the lower half of the red is striped. */
const picture: Picture = { width, height, data: new Uint8ClampedArray(width * height * 4) }
for (let y = 0; y < height; y++)
  for (let x = 0; x < width; x++) {
    const stripe = x < 80 && y >= 60 && Math.floor(x / 2) % 2 ? 50 : 0
    picture.data.set(
      x < 80 ? [170 - stripe, 60 - stripe / 2, 50 - stripe / 2, 255] : [60, 80, 170, 255],
      (y * width + x) * 4,
    )
  }
const fold = (...steps: object[]) =>
  foldSteps(
    steps.map((s) => parseStep(s)),
    sceneOf(picture),
    plainContext(),
  ).data
const spot = (more: object) => ({ kind: 'colourSpot', at: [60, 30], radius: 40, ...more })
const at = (data: Uint8Array, x: number, y: number) => data[y * width + x]

describe('a spot', () => {
  it('finds its centre’s colour fully up to the inner ring, fading to the outer one, nothing beyond', () => {
    const found = fold(spot({ at: [40, 24], radius: 30, core: 0.5 }))
    expect(at(found, 40, 24)).toBe(255)
    expect(at(found, 26, 24)).toBe(255)
    const fade = [56, 60, 64, 68].map((x) => at(found, x, 24))
    expect([...fade].sort((a, b) => b - a)).toEqual(fade)
    expect(fade[0]).toBeGreaterThan(200)
    expect(fade[3]).toBeLessThan(20)
    expect(at(found, 71, 24)).toBe(0)
  })
  it('halfway between the rings it covers one half (smooth step)', () => {
    expect(at(fold(spot({ at: [40, 24.5], radius: 30, core: 0.5 })), 62, 24)).toBeCloseTo(128, -1)
  })
  it('leaves other colours and other textures inside its circle', () => {
    const found = fold(spot({ at: [66, 50], radius: 40, core: 1, spread: 14 }))
    expect(at(found, 66, 45)).toBe(255)
    expect(at(found, 90, 50)).toBe(0) // blue
    expect(at(found, 60, 75)).toBe(0) // striped, its mean colour not far
  })
  it('an excluding spot takes away what it finds, whatever its op', () => {
    const all = { kind: 'all' }
    const found = fold(all, spot({ at: [40, 24], radius: 30, core: 1, keep: false }))
    expect(at(found, 40, 24)).toBe(0)
    expect(at(found, 120, 24)).toBe(255)
  })
  it('outside the canvas, without a radius, on nothing it finds nothing; larger than the picture it finds all of its colour', () => {
    for (const step of [spot({ at: [-5, 20] }), spot({ radius: 0 })])
      expect(fold(step).every((v) => v === 0)).toBe(true)
    const large = fold(spot({ at: [120.5, 30.5], radius: 5000, core: 1 }))
    expect(large.every((v, i) => (i % width > 82 ? v === 255 : i % width < 78 ? v === 0 : true))).toBe(true)
  })
  it('a 1×1 picture and a 20 000×1 one are pictures too', () => {
    for (const [w, h] of [
      [1, 1],
      [20_000, 1],
    ]) {
      const flat: Picture = { width: w, height: h, data: new Uint8ClampedArray(w * h * 4).fill(200) }
      expect(
        foldSteps(
          [parseStep({ kind: 'colourSpot', at: [0.5, 0.5], radius: 9, core: 1 })],
          sceneOf(flat),
          plainContext(),
        ).data[0],
      ).toBe(255)
    }
  })
})
