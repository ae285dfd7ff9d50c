import { describe, expect, it } from 'vitest'
import { type Picture } from '../raster/picture'
import { wireBetween, wires } from './liveWire'
import { greyPicture } from '../../../tests/setups/greyPicture'

const WAY_X = [1, 1, 0, -1, -1, -1, 0, 1],
  WAY_Y = [0, 1, 1, 1, 0, -1, -1, -1]
/** What a step costs, from Mortensen and Barrett's three costs, written out pixel by pixel. */
function stepPrices({ data }: Picture, side: number): (from: number, to: number, way: number) => number {
  const clamp = (v: number) => Math.min(side - 1, Math.max(0, v)),
    grey = (x: number, y: number) => data[(clamp(y) * side + clamp(x)) * 4],
    B = [0.25, 0.5, 0.25]
  const calm = (x: number, y: number) =>
    B.reduce((sum, wy, v) => sum + B.reduce((row, wx, u) => row + wx * wy * grey(x + u - 1, y + v - 1), 0), 0)
  const at = (i: number) => {
    const x = i % side,
      y = Math.floor(i / side),
      c = (u: number, v: number) => calm(x + u, y + v)
    const gx = (3 * (c(1, -1) - c(-1, -1) + c(1, 1) - c(-1, 1)) + 10 * (c(1, 0) - c(-1, 0))) / 32,
      gy = (3 * (c(-1, 1) - c(-1, -1) + c(1, 1) - c(1, -1)) + 10 * (c(0, 1) - c(0, -1))) / 32,
      g = Math.hypot(gx, gy)
    return { g, ax: g > 0.5 ? -gy / g : 0, ay: g > 0.5 ? gx / g : 0 }
  }
  const all = Array.from({ length: side * side }, (_, i) => at(i))
  const local = all.map(({ g, ax, ay }, i) => {
    if (g < 5.5) return 68
    // On the crest: no neighbour across the edge, to the nearest of eight directions, is steeper.
    const turn = Math.round((4 * Math.atan2(ax, -ay)) / Math.PI) * (Math.PI / 4),
      dx = Math.round(Math.cos(turn)),
      dy = Math.round(Math.sin(turn)),
      x = i % side,
      y = Math.floor(i / side)
    const steeper = [1, -1].some(
      (s) =>
        x + s * dx >= 0 &&
        x + s * dx < side &&
        y + s * dy >= 0 &&
        y + s * dy < side &&
        all[i + s * (dy * side + dx)].g > g,
    )
    return 34 * (1 - Math.min(1, g / 55)) + (steeper ? 34 : 0)
  })
  return (from, to, way) =>
    (way % 2 ? Math.SQRT2 : 1) * (local[to] + 32) -
    16 *
      (Math.abs(WAY_X[way] * all[from].ax + WAY_Y[way] * all[from].ay) +
        Math.abs(WAY_X[way] * all[to].ax + WAY_Y[way] * all[to].ay))
}

describe('live wire', () => {
  const edge = greyPicture(80, 60, (x, y) => (x > 40 + 8 * Math.sin(y / 9) ? 190 : 70))
  it('runs along an edge that is not straight, within a pixel', () => {
    const path = wireBetween(edge, [40 + 8 * Math.sin(5 / 9), 5], [40 + 8 * Math.sin(55 / 9), 55], 16, 5.5)
    expect(path.length).toBeGreaterThan(45)
    for (const [x, y] of path) expect(Math.abs(x - (40.5 + 8 * Math.sin((y - 0.5) / 9)))).toBeLessThan(1.2)
  })
  it('follows an edge over thousands of pixels, at half the size', () => {
    const at = (y: number) => 1300 + 60 * Math.sin(y / 200),
      long = greyPicture(2600, 2400, (x, y) => (x > at(y) ? 190 : 60)),
      path = wireBetween(long, [at(20), 20], [at(2380), 2380], 80, 5.5)
    for (const [x, y] of path) expect(Math.abs(x - at(y))).toBeLessThan(2.5)
    expect(path.length).toBeLessThan(1500)
  })
  it('is straight where there are no edges', () => {
    for (const [x] of wireBetween(
      greyPicture(60, 60, () => 120),
      [30, 5],
      [30, 50],
      10,
      5.5,
    ))
      expect(Math.abs(x - 30.5)).toBeLessThan(0.6)
  })
  it('is as cheap as the cheapest way by a plain search over the costs as they are defined', () => {
    const side = 24,
      value = (x: number, y: number) => (x + 6 * Math.sin(y / 4) > 12 ? 170 : 60) + ((x * 7 + y * 13) % 11),
      picture = greyPicture(side, side, (x, y) => Math.floor(value(x, y)))
    const tree = wires(
        picture,
        [12, 0],
        { box: { x: 0, y: 0, width: side, height: side }, edgeGradient: 2.2 },
        ({ stride, from }) => ({ stride, from: from.slice() }),
      ),
      price = stepPrices(picture, side)
    // Bellman and Ford: relax every step until nothing changes.
    const best = new Float64Array(side * side).fill(Infinity)
    best[12] = 0
    for (let changed = true; changed;) {
      changed = false
      for (let i = 0; i < best.length; i++)
        for (let way = 0; way < 8; way++) {
          const x = (i % side) + WAY_X[way],
            y = Math.floor(i / side) + WAY_Y[way],
            j = y * side + x
          if (x >= 0 && y >= 0 && x < side && y < side && best[i] + price(i, j, way) < best[j] - 1e-9) {
            best[j] = best[i] + price(i, j, way)
            changed = true
          }
        }
    }
    for (const [x, y] of [
      [3, 23],
      [12, 23],
      [20, 12],
      [0, 5],
    ]) {
      let i = y * side + x,
        cost = 0
      for (let steps = 0; i !== 12 && steps < 1000; steps++) {
        const back = tree.from[(Math.floor(i / side) + 2) * tree.stride + (i % side) + 2],
          next = i + WAY_Y[back] * side + WAY_X[back]
        cost += price(next, i, (back + 4) % 8)
        i = next
      }
      expect(cost).toBeGreaterThanOrEqual(best[y * side + x] - 1e-6)
      expect(cost).toBeLessThan(best[y * side + x] * 1.02 + 2) // costs are whole half units
    }
  })
})
