import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { overlap } from '../matting/errors'
import { emptyMatte, type Matte } from '../raster/picture'
import { randomOf } from '../../../tests/madeUp/random'
import { ellipse } from '../select/ellipse'
import { plainContext, sceneOf } from '../select/onePicture'
import { rectangle } from '../select/rectangle'
import { fillPolygons } from './fill'
import { faithfulOutline } from './faithfulOutline'
import { matteSubpaths } from './fitCurves'
import { flattened, pathData, pathOutlines, subpathsOf } from './path'
import { areaOf, traceMatte } from './trace'

const size = { width: 200, height: 150 }
const scene = sceneOf({ ...size, data: new Uint8ClampedArray(size.width * size.height * 4) })
const copied = (m: Matte): Matte => ({ ...m, data: m.data.slice() })
const disc = (d: number): Matte =>
  copied(
    ellipse.find(
      scene,
      { x: 100 - d / 2, y: 75 - d / 2, width: d, height: d, rotation: 0, antialias: true, sample: 'all' },
      plainContext(),
    ),
  )
const box = (more: object): Matte =>
  copied(
    rectangle.find(
      scene,
      { x: 40, y: 30, width: 100, height: 60, rotation: 0, cornerRadius: 0, antialias: true, sample: 'all', ...more },
      plainContext(),
    ),
  )
const again = (m: Matte, tolerance: number) =>
  fillPolygons(m, pathOutlines(pathData(matteSubpaths(m, tolerance))), 'nonzero')
const difference = (a: Matte, b: Matte) => a.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]) / 255, 0)

describe('a matte traced to outlines', () => {
  it('a disc’s contour lies on its circle within a tenth of a pixel, and holes run the other way', () => {
    const [contour] = traceMatte(disc(101.4))
    for (let i = 0; i < contour.length; i += 2)
      expect(Math.abs(Math.hypot(contour[i] - 100, contour[i + 1] - 75) - 50.7)).toBeLessThan(0.09)
    const ring = disc(120)
    const hole = disc(60)
    ring.data.forEach((v, i) => {
      ring.data[i] = Math.max(0, v - hole.data[i])
    })
    const areas = traceMatte(ring).map(areaOf)
    expect(areas).toHaveLength(2)
    expect(areas[0] / (Math.PI * 3600)).toBeCloseTo(1, 2)
    expect(areas[1] / (Math.PI * 900)).toBeCloseTo(-1, 2)
  })
  it('every matte is walked completely: hard contours filled again are the matte, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 23 }),
        fc.integer({ min: 1, max: 17 }),
        fc.infiniteStream(fc.boolean()),
        (width, height, bits) => {
          const m: Matte = {
            width,
            height,
            data: Uint8Array.from({ length: width * height }, () => (bits.next().value ? 255 : 0)),
          }
          const outlines = traceMatte(m).map((c) =>
            Array.from({ length: c.length / 2 }, (_, i): [number, number] => [c[2 * i], c[2 * i + 1]]),
          )
          // Middles of pixels lie inside just where the pixel was inside: contours pass halfway between.
          const inside = (x: number, y: number) => {
            let n = 0
            for (const o of outlines)
              for (let i = 0, j = o.length - 1; i < o.length; j = i++)
                if (
                  o[i][1] > y !== o[j][1] > y &&
                  x < ((o[j][0] - o[i][0]) * (y - o[i][1])) / (o[j][1] - o[i][1]) + o[i][0]
                )
                  n++
            return n % 2 === 1
          }
          m.data.forEach((v, i) => expect(inside((i % width) + 0.5, Math.floor(i / width) + 0.50001)).toBe(v === 255))
        },
      ),
      { numRuns: 60 },
    )
  })
  it('nothing has no contour, everything has one along the border', () => {
    expect(traceMatte(emptyMatte(size))).toEqual([])
    const all = emptyMatte(size)
    all.data.fill(255)
    const contours = traceMatte(all)
    expect(contours).toHaveLength(1)
    expect(areaOf(contours[0])).toBeGreaterThan(200 * 150 - 1)
  })
})

describe('an outline fitted with curves', () => {
  it('a box becomes four corners, on its corners', () => {
    const [subpath] = matteSubpaths(box({}), 0.5)
    expect(subpath.nodes).toHaveLength(4)
    const corners = subpath.nodes.map((n) => n.at.map((v) => Math.round(v * 10) / 10).join()).sort()
    expect(corners).toEqual(['140,30', '140,90', '40,30', '40,90'])
    expect(subpath.nodes.every((n) => !n.into && !n.out)).toBe(true)
  })
  it('a turned box keeps its corners within half a pixel, a disc becomes a few curves within the tolerance', () => {
    expect(difference(again(box({ rotation: 27 }), 0.5), box({ rotation: 27 }))).toBeLessThan(30) // of 320 px of boundary
    const [circle] = matteSubpaths(disc(120), 0.3)
    expect(circle.nodes.length).toBeLessThan(14)
    for (const [x, y] of flattened([circle])[0]) expect(Math.abs(Math.hypot(x - 100, y - 75) - 60)).toBeLessThan(0.5)
  })
  it('filled again it is the matte, nearly; a larger tolerance takes fewer nodes', () => {
    const wavy = fillPolygons(
      size,
      [
        Array.from({ length: 400 }, (_, i): [number, number] => {
          const a = (i / 400) * 2 * Math.PI,
            r = 50 + 12 * Math.sin(5 * a)
          return [100 + r * Math.cos(a), 75 + r * Math.sin(a)]
        }),
      ],
      'nonzero',
    )
    expect(difference(again(wavy, 0.3), wavy)).toBeLessThan(45) // of about 380 px of boundary
    const nodes = [0.3, 1, 3].map((t) => matteSubpaths(wavy, t)[0].nodes.length)
    expect(nodes[0]).toBeGreaterThan(nodes[1])
    expect(nodes[1]).toBeGreaterThanOrEqual(nodes[2])
    expect(nodes[0]).toBeLessThan(40)
  })
  it('specks below the least area are left out; a single pixel is an outline too', () => {
    const m = disc(100)
    m.data[3 * 200 + 3] = 255
    expect(matteSubpaths(m, 0.5, 4)).toHaveLength(1)
    expect(matteSubpaths(m, 0.5, 0)).toHaveLength(2)
  })
})

describe('an outline that is the matte again', () => {
  const like = (m: Matte): number => {
    const filled = fillPolygons(m, flattened(subpathsOf(pathData(faithfulOutline(m, 0.1)))), 'nonzero')
    return overlap(m, filled)
  }
  it('of hairs, specks and pinholes nothing is lost at half coverage', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = randomOf(seed),
          m = emptyMatte({ width: 120, height: 90 }),
          data = m.data.slice()
        // Thin lines of any coverage and direction, and single pixels.
        for (let n = 0; n < 14; n++) {
          const [x, y, turn, thick] = [random() * 120, random() * 90, random() * Math.PI, 0.4 + random() * 1.6]
          for (let i = 0; i < data.length; i++) {
            const far = Math.abs(
              ((i % 120) + 0.5 - x) * Math.sin(turn) - (Math.floor(i / 120) + 0.5 - y) * Math.cos(turn),
            )
            data[i] = Math.max(data[i], 255 * Math.min(1, Math.max(0, thick / 2 + 0.5 - far)))
          }
        }
        for (let n = 0; n < 40; n++) data[Math.floor(random() * data.length)] = random() < 0.5 ? 200 : 0
        expect(like({ ...m, data })).toBeGreaterThan(0.999)
      }),
      { numRuns: 25 },
    )
  })
  it('of what is as large as curves say it, curves are what comes out', () => {
    const round = disc(140.6)
    expect(pathData(faithfulOutline(round, 0.1))).toBe(pathData(matteSubpaths(round, 0.1)))
    expect(like(round)).toBeGreaterThan(0.999)
  })
})
