import { describe, expect, it } from 'vitest'
import { flattened, pathData, subpathsOf } from '@/core/vector/path'
import {
  appended,
  closedAt,
  converted,
  inserted,
  isSmooth,
  mirrored,
  movedAll,
  movedHandle,
  movedNode,
  nearestPlace,
  withoutLast,
  withoutNode,
} from './nodes'

const square = subpathsOf('M0 0 L100 0 L100 100 L0 100 Z')

describe('a path under the hand', () => {
  it('is drawn point by point, smooth where dragged, and closed', () => {
    let path = appended([], { at: [0, 0] })
    path = appended(path, { at: [50, 0], out: [70, 20], into: mirrored([50, 0], [70, 20]) })
    path = closedAt(path)
    expect(pathData(path)).toBe('M0 0 C0 0 30 -20 50 0 C70 20 0 0 0 0 Z')
    expect(appended(path, { at: [9, 9] })).toHaveLength(2) // after closing, a further point begins another subpath
    expect(withoutLast(appended([], { at: [1, 1] }))).toEqual([])
  })
  it('a point moves with its handles; a smooth point’s handles turn together unless one is moved alone', () => {
    const path = subpathsOf('M0 0 C10 10 40 -10 50 0 C60 10 90 10 100 0')
    expect(isSmooth(path[0].nodes[1])).toBe(true)
    expect(movedNode(path, 0, 1, [55, 5])[0].nodes[1]).toEqual({ at: [55, 5], into: [45, -5], out: [65, 15] })
    const turned = movedHandle(path, 0, 1, 'out', [50, 30], false)[0].nodes[1]
    expect(turned.into![0]).toBeCloseTo(50, 9)
    expect(turned.into![1]).toBeCloseTo(-Math.hypot(10, 10), 9) // its own length stays
    expect(movedHandle(path, 0, 1, 'out', [50, 30], true)[0].nodes[1].into).toEqual([40, -10])
    expect(movedAll(path, 3, -2)[0].nodes[1]).toEqual({ at: [53, -2], into: [43, -12], out: [63, 8] })
  })
  it('a corner becomes smooth and a corner again', () => {
    const smooth = converted(square, 0, 1)
    expect(isSmooth(smooth[0].nodes[1])).toBe(true)
    expect(converted(smooth, 0, 1)).toEqual(square)
  })
  it('a point put on a curve leaves the curve as it is; taken away, the path has one less', () => {
    const round = converted(converted(square, 0, 1), 0, 2)
    const place = nearestPlace(round, [118, 50])!
    expect(place.index).toBe(1)
    const more = inserted(round, place.subpath, place.index, place.t)
    expect(more[0].nodes).toHaveLength(5)
    const far = (a: readonly (readonly [number, number])[], b: readonly (readonly [number, number])[]) =>
      Math.max(...a.map(([x, y]) => Math.min(...b.map(([p, q]) => Math.hypot(p - x, q - y)))))
    expect(far(flattened(more)[0], flattened(round)[0])).toBeLessThan(0.5)
    expect(withoutNode(more, 0, 2)[0].nodes).toHaveLength(4)
    expect(inserted(square, 0, 3, 0.5)[0].nodes.at(-1)!.at).toEqual([0, 50]) // on the closing side
  })
})
