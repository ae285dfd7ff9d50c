import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fillPolygons } from './fill'
import { PathError } from './readPath'
import { pathData, pathOutlines, pointOn, splitAt, subpathsOf, type Subpath } from './path'

const area = (d: string) =>
  fillPolygons({ width: 700, height: 500 }, pathOutlines(d), 'nonzero').data.reduce((s, v) => s + v / 255, 0)
const ends = (d: string) => pathOutlines(d).map((o) => o.at(-1)!.map((v) => Math.round(v * 1e6) / 1e6))

describe('SVG path data', () => {
  it('reads the examples of SVG 2, chapter 9', () => {
    expect(pathOutlines('M 100 100 L 300 100 L 200 300 z')[0]).toEqual([
      [100, 100],
      [300, 100],
      [200, 300],
    ])
    expect(pathOutlines('M 100 100 L 200 200')).toEqual(pathOutlines('M100 100L200 200')) // superfluous white space
    expect(pathOutlines('M 100 200 L 200 100 L -100 -200')).toEqual(pathOutlines('M 100 200 L 200 100 -100 -200')) // repeated command
    expect(pathOutlines('M 100-200')).toEqual([])
    expect(pathOutlines('M 0.6.5 1 2')[0]).toEqual([
      [0.6, 0.5],
      [1, 2],
    ]) // "M 0.6.5" is two numbers
    expect(ends('M100,200 C100,100 250,100 250,200 S400,300 400,200')).toEqual([[400, 200]]) // figure cubic01
    expect(ends('M200,300 Q400,50 600,300 T1000,300')).toEqual([[1000, 300]]) // figure quad01
    expect(ends('M300,200 h-150 a150,150 0 1,0 150,-150 z')).toEqual([[300, 50]]) // figure arcs01: three quarters of a pie
  })
  it('relative commands are absolute ones moved, arcs may write their flags together', () => {
    expect(pathOutlines('m10 20 l5 6 h7 v-3 q1 2 3 4 t5 6 c1 1 2 2 3 3 s4 4 5 5')).toEqual(
      pathOutlines('M10 20 L15 26 H22 V23 Q23 25 25 27 T30 33 C31 34 32 35 33 36 S37 40 38 41'),
    )
    expect(pathOutlines('M0 0a25 25 0 0150 0')).toEqual(pathOutlines('M0 0 a 25 25 0 0 1 50 0'))
  })
  it('arcs enclose the areas of geometry: a pie of three quarters, a whole circle of two halves', () => {
    expect(area('M300,200 h-150 a150,150 0 1,0 150,-150 z') / (0.75 * Math.PI * 150 * 150)).toBeCloseTo(1, 3)
    expect(area('M100 200 A80 80 0 0 1 260 200 A80 80 0 0 1 100 200') / (Math.PI * 6400)).toBeCloseTo(1, 3)
    expect(area('M100 200 A1 1 0 0 1 260 200 A1 1 0 0 1 100 200') / (Math.PI * 6400)).toBeCloseTo(1, 3) // too small radii are scaled up
  })
  it('the circle of four cubics with 0.5523 leaves the true one by at most 2.73e-4 of its radius (published error of that approximation)', () => {
    const k = 0.5522847498,
      r = 100
    const d = `M${r} 0 C${r} ${k * r} ${k * r} ${r} 0 ${r} C${-k * r} ${r} ${-r} ${k * r} ${-r} 0 C${-r} ${-k * r} ${-k * r} ${-r} 0 ${-r} C${k * r} ${-r} ${r} ${-k * r} ${r} 0 Z`
    const errors = pathOutlines(d)[0].map(([x, y]) => Math.hypot(x, y) / r - 1)
    expect(Math.max(...errors)).toBeCloseTo(2.73e-4, 5)
    expect(Math.min(...errors)).toBeGreaterThan(-1e-6)
  })
  it.each([
    ['L 1 2', 'begins with M'],
    ['M 1', 'a number is missing at character 4'],
    ['M 1 2 X', '“X” at character 7'],
    ['M0 0 A1 1 0 2 0 3 3', 'a flag (0 or 1) is missing at character 13'],
    ['M NaN 3', 'a number is missing'],
  ])('%s is refused: %s', (d, sentence) => {
    expect(() => pathOutlines(d)).toThrow(PathError)
    expect(() => pathOutlines(d)).toThrow(sentence)
  })
  it('nothing is nothing', () => {
    expect(pathOutlines('')).toEqual([])
  })
  it('nodes written as path data and read again are the same nodes', () => {
    const coordinate = fc.integer({ min: -50_000, max: 50_000 }).map((n) => n / 100),
      point = fc.tuple(coordinate, coordinate)
    const node = fc.record({ at: point, into: point, out: point })
    fc.assert(
      fc.property(
        fc.array(fc.record({ nodes: fc.array(node, { minLength: 2, maxLength: 6 }), closed: fc.boolean() }), {
          minLength: 1,
          maxLength: 3,
        }),
        (subpaths) => {
          // An open subpath keeps no handles beyond its ends: they shape nothing.
          const kept: Subpath[] = subpaths.map(({ nodes, closed }) => ({
            closed,
            nodes: nodes.map((n, i) => ({
              at: n.at,
              ...(closed || i > 0 ? { into: n.into } : {}),
              ...(closed || i < nodes.length - 1 ? { out: n.out } : {}),
            })),
          }))
          expect(subpathsOf(pathData(kept))).toEqual(kept)
        },
      ),
    )
  })
  it('a curve split at a node is the same curve', () => {
    const from = { at: [0, 0], out: [30, -40] } as const,
      to = { at: [100, 20], into: [70, 90] } as const
    const [a, middle, b] = splitAt(from, to, 0.3)
    middle.at.forEach((v, i) => expect(v).toBeCloseTo(pointOn(from, to, 0.3)[i], 9))
    for (const t of [0.2, 0.5, 0.9]) {
      pointOn(a, middle, t).forEach((v, i) => expect(v).toBeCloseTo(pointOn(from, to, 0.3 * t)[i], 9))
      pointOn(middle, b, t).forEach((v, i) => expect(v).toBeCloseTo(pointOn(from, to, 0.3 + 0.7 * t)[i], 9))
    }
  })
  it('a path too intricate to be drawn is refused in words', () => {
    const wild = `M0 0 ${Array.from({ length: 60 }, (_, i) => `C 9e8 ${i} -9e8 9e8 ${i} ${i}`).join(' ')}`
    expect(() => pathOutlines(wild)).toThrow('more than 2,000,000 points')
  })
})
