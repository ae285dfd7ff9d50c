import { describe, expect, it } from 'vitest'
import { randomOf } from '../../../tests/madeUp/random'
import { fillPolygons, type Point } from '../vector/fill'
import { traceMatte } from '../vector/trace'
import { boxAround, corrections, nearEnough } from './objectOfAnchors'

const size = { width: 300, height: 200 }
const corners: readonly Point[] = [
  [60, 40],
  [240, 40],
  [240, 160],
  [60, 160],
]
const square = traceMatte(fillPolygons(size, [corners], 'evenodd'))

describe('the object anchors lie on', () => {
  it('the box around them leaves a twelfth to a sixth of its longer side, and stays while one is moved a little', () => {
    const random = randomOf(3)
    let stayed = 0
    for (let n = 0; n < 200; n++) {
      const anchors = Array.from({ length: 6 }, (): Point => [random.between(0, 5000), random.between(0, 3000)]),
        box = boxAround(anchors),
        xs = anchors.map(([x]) => x),
        ys = anchors.map(([, y]) => y),
        side = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys))
      const left = [
        Math.min(...xs) - box[0][0],
        Math.min(...ys) - box[0][1],
        box[2][0] - Math.max(...xs),
        box[2][1] - Math.max(...ys),
      ]
      for (const each of left) {
        expect(each).toBeGreaterThanOrEqual(0.08 * side)
        expect(each).toBeLessThanOrEqual(0.16 * side + 1e-9)
      }
      const moved = anchors.map(([x, y], k): Point => (k === 2 ? [x + 3, y - 2] : [x, y]))
      if (String(boxAround(moved)) === String(box)) stayed++
    }
    expect(stayed).toBeGreaterThan(180)
  })
  it.each<[string, boolean]>([
    ['clockwise', true],
    ['anticlockwise', false],
  ])('%s: anchors beside what was found drop what lies beyond them, or keep what lies before', (_, clockwise) => {
    const places: readonly Point[] = [...corners.slice(0, 2), [200, 100], [240, 160], [150, 190], [60, 160]],
      marks = corrections(clockwise ? places : places.toReversed(), square, 6, clockwise, size)!
    expect(marks.drop).toHaveLength(1)
    expect(marks.keep).toHaveLength(1)
    // A notch in the right side: what lies right of it goes; a point below the lower side: what lies above it stays.
    const [[dropX, dropY]] = marks.drop[0].points,
      [[keepX, keepY]] = marks.keep[0].points
    expect(dropX).toBeGreaterThan(206)
    expect(dropY).toBeCloseTo(100, -1)
    expect(keepX).toBeCloseTo(150, -1)
    expect(keepY).toBeLessThan(182)
    expect(marks.drop[0]).toMatchObject({ size: 12, turn: 1 })
    expect(marks.keep[0]).toMatchObject({ size: 12, turn: 2 })
  })
  it('nothing corrects where all lie on the outline, or where most lie elsewhere', () => {
    expect(corrections(corners, square, 6, true, size)).toBeNull()
    const elsewhere = Array.from({ length: 70 }, (_, k): Point => [100 + k, k % 2 ? 90 : 110])
    expect(corrections(elsewhere, square, 6, true, size)).toBeNull()
  })
  it('an anchor is on an outline within a quarter of the reach, or by the size of what is outlined', () => {
    expect(nearEnough(corners, 24)).toBe(6)
    expect(nearEnough([corners[0], [4060, 3040]], 24)).toBeCloseTo(0.004 * 5000)
  })
})
