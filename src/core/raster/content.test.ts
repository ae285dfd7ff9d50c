import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { contentBox } from './content'
import { type Picture } from './picture'

const scene = (paint: (x: number, y: number) => readonly [number, number, number, number]): Picture => {
  const width = 120,
    height = 80,
    data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < width * height; i++) data.set(paint(i % width, Math.floor(i / width)), i * 4)
  return { width, height, data }
}
const noise = (x: number, y: number) => ((x * 7919 + y * 104729) % 13) - 6

describe('fit to content', () => {
  it('shrinks any box around a thing on a noisy wall to the thing', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 38 }),
        fc.integer({ min: 2, max: 18 }),
        fc.integer({ min: 3, max: 30 }),
        fc.integer({ min: 3, max: 30 }),
        (left, top, right, bottom) => {
          const wall = scene((x, y) =>
            x >= 42 && x < 85 && y >= 22 && y < 47
              ? [200, 60, 40, 255]
              : [110 + noise(x, y), 120 + noise(y, x), 130, 255],
          )
          expect(
            contentBox(wall, { x: 42 - left, y: 22 - top, width: 43 + left + right, height: 25 + top + bottom }),
          ).toEqual({ x: 42, y: 22, width: 43, height: 25 })
        },
      ),
      { numRuns: 40 },
    )
  })
  it('follows a wall that gets darker across, though a thing leans on the border', () => {
    const wall = scene((x, y) =>
      x >= 50 && x < 80 && y >= 30 ? [90, 60, 40, 255] : [100 + x, 130 + x + noise(x, y) / 2, 150 + y, 255],
    )
    expect(contentBox(wall, { x: 5, y: 5, width: 110, height: 75 })).toEqual({ x: 50, y: 30, width: 30, height: 50 })
  })
  it('goes by alpha where there is transparency, whatever the colours', () => {
    expect(
      contentBox(
        scene((x, y) => [10, 10, 10, x > 30 && x <= 50 && y > 20 && y <= 60 ? 255 : 0]),
        { x: 0, y: 0, width: 120, height: 80 },
      ),
    ).toEqual({ x: 31, y: 21, width: 20, height: 40 })
  })
  it('specks do not count, and a thing may run out of the box on one side', () => {
    const wall = scene((x, y) =>
      (x === 3 && y === 3) || (x >= 60 && y >= 30 && y < 50) ? [20, 20, 20, 255] : [220, 220, 210, 255],
    )
    expect(contentBox({ ...wall }, { x: 0, y: 0, width: 120, height: 80 })).toEqual({
      x: 60,
      y: 30,
      width: 60,
      height: 20,
    })
  })
  it('nothing inside, nothing of it on the canvas: nothing to fit to', () => {
    const wall = scene((x, y) => [110 + noise(x, y), 120, 130, 255])
    expect(contentBox(wall, { x: 5, y: 5, width: 60, height: 40 })).toBeNull()
    expect(contentBox(wall, { x: 500, y: 5, width: 60, height: 40 })).toBeNull()
    expect(contentBox(wall, { x: 5, y: 5, width: 0, height: 40 })).toBeNull()
    expect(
      contentBox(
        scene(() => [0, 0, 0, 0]),
        { x: 0, y: 0, width: 120, height: 80 },
      ),
    ).toBeNull()
  })
})
