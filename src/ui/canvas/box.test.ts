import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { BOX_PLACES, boxBetween, insideBox, placeOn, pullCursor, stretched, type Box } from './box'

const boxes: fc.Arbitrary<Box> = fc.record({
  x: fc.integer({ min: -50, max: 50 }),
  y: fc.integer({ min: -50, max: 50 }),
  width: fc.integer({ min: 1, max: 90 }),
  height: fc.integer({ min: 1, max: 90 }),
  rotation: fc.integer({ min: -180, max: 180 }),
})

describe('a box under the hand', () => {
  it('is drawn between two points, with equal sides or from the centre', () => {
    expect(boxBetween([10, 10], [4, 30], false, false)).toEqual({ x: 4, y: 10, width: 6, height: 20 })
    expect(boxBetween([10, 10], [4, 30], true, false)).toEqual({ x: -10, y: 10, width: 20, height: 20 })
    expect(boxBetween([10, 10], [14, 12], false, true)).toEqual({ x: 6, y: 8, width: 8, height: 4 })
  })
  it('is pulled with a pointer that points along the way a corner or side goes, turned or not', () => {
    const cursors = (rotation: number) => {
      const box = { x: 0, y: 0, width: 10, height: 10, rotation }
      return BOX_PLACES.map(([u, v]) => pullCursor([5, 5], placeOn(box, u, v)).split('-')[0])
    }
    const upright = ['nwse', 'ns', 'nesw', 'ew', 'nwse', 'ns', 'nesw', 'ew']
    expect(cursors(0)).toEqual(upright)
    for (const eighths of [1, 2, 3, 5, -1, -4])
      expect(cursors(45 * eighths)).toEqual(upright.map((_, i) => upright[(i + eighths + 8) % 8]))
  })
  it('keeps a ratio, a width, a height or a size when asked', () => {
    expect(boxBetween([0, 0], [30, 5], false, false, { mode: 'ratio', width: 3, height: 2 })).toEqual({
      x: 0,
      y: 0,
      width: 30,
      height: 20,
    })
    expect(boxBetween([0, 0], [-5, 7], false, false, { mode: 'width', width: 12, height: 1 })).toEqual({
      x: -12,
      y: 0,
      width: 12,
      height: 7,
    })
    expect(boxBetween([10, 10], [12, 13], false, true, { mode: 'size', width: 8, height: 6 })).toEqual({
      x: 6,
      y: 7,
      width: 8,
      height: 6,
    })
    const box = { x: 0, y: 0, width: 30, height: 20, rotation: 0 },
      ratio = { mode: 'ratio', width: 3, height: 2 } as const
    expect(stretched(box, 1, 0.5, [60, 3], false, false, ratio)).toEqual({ x: 0, y: -10, width: 60, height: 40 })
    expect(stretched(box, 1, 1, [33, 40], false, false, ratio)).toEqual({ x: 0, y: 0, width: 60, height: 40 })
    expect(stretched(box, 1, 1, [50, 50], false, false, { mode: 'height', width: 1, height: 20 })).toMatchObject({
      width: 50,
      height: 20,
    })
  })
  it('stretching by any handle leaves the opposite side where it was, and brings the handle under the pointer', () => {
    fc.assert(
      fc.property(
        boxes,
        fc.constantFrom([0, 0], [1, 0], [1, 1], [0, 1]),
        fc.integer({ min: 5, max: 60 }),
        fc.integer({ min: 5, max: 60 }),
        (box, [u, v], dx, dy) => {
          const target = placeOn(
            {
              ...box,
              x: box.x - (u === 0 ? dx : 0),
              y: box.y - (v === 0 ? dy : 0),
              width: box.width,
              height: box.height,
            },
            u,
            v,
          )
          const fixed = placeOn(box, 1 - u, 1 - v)
          const next: Box = { ...stretched(box, u, v, target, false, false), rotation: box.rotation }
          placeOn(next, 1 - u, 1 - v).forEach((c, i) => expect(c).toBeCloseTo(fixed[i], 6))
          if (next.width > 1 && next.height > 1)
            placeOn(next, u, v).forEach((c, i) => expect(c).toBeCloseTo(target[i], 6))
        },
      ),
    )
  })
  it('knows what lies inside when turned', () => {
    fc.assert(
      fc.property(boxes, (box) => {
        expect(insideBox(box, placeOn(box, 0.5, 0.5))).toBe(true)
        expect(insideBox(box, placeOn(box, 1.2, 0.5))).toBe(false)
      }),
    )
  })
})
