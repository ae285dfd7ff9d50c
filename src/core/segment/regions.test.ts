import { describe, expect, it } from 'vitest'
import { colourOverlap } from './colourOverlap'
import { INSIDE, OUTSIDE } from './gridCut'
import { keepObject } from './keepObject'
import { type LabPlanes, labPlanes } from './labPlanes'
import { nearAny } from '../raster/nearAny'
import { piecesOf } from './pieces'
import { randomWalk } from './randomWalk'
import { geodesicDistance, regionGraph, type RegionGraph } from './regionGraph'
import { dropOverhangs } from './overhangs'
import { BY_OUTLINE } from './mergeCost'
import { cutTree, cutTreeByArea, makeRegionTree } from './regionTree'
import { saliency } from './saliency'
import { greyPicture } from '../../../tests/setups/greyPicture'

/** Regions in a row, each of one colour, side by side. */
const row = (tones: readonly number[]): RegionGraph => ({
  regionOf: Int32Array.from(tones, (_, i) => i),
  count: tones.length,
  area: new Float32Array(tones.length).fill(1),
  colour: Float32Array.from(tones.flatMap((t) => [t, 0, 0])),
  middle: Float32Array.from(tones.flatMap((_, i) => [i, 0])),
  neighbours: tones.map((_, i) => [i - 1, i + 1].filter((q) => q >= 0 && q < tones.length)),
  borders: tones.map((_, i) =>
    [i - 1, i + 1].filter((q) => q >= 0 && q < tones.length).map(() => ({ length: 1, strength: 0 })),
  ),
  inTree: Int32Array.from(tones, (_, i) => i),
})

describe('the region tree', () => {
  const lab = (at: (x: number, y: number) => number) => labPlanes(greyPicture(40, 30, at))
  const regionsAt = (planes: LabPlanes, count: number) => {
    const tree = makeRegionTree(planes),
      top = cutTree(tree, count)
    return Array.from(tree.basinOf, (b) => top[b])
  }
  it('cut into two parts a picture of two tones along their edge', () => {
    const regions = regionsAt(
      lab((x) => (x < 17 ? 60 : 150)),
      2,
    )
    expect(new Set(regions).size).toBe(2)
    regions.forEach((r, i) => {
      expect(r === regions[0]).toBe(i % 40 < 17)
    })
  })
  it('every cut is a partition, and a finer one parts the regions of a coarser one', () => {
    const planes = lab((x, y) => 40 + ((x * 7 + y * 13) % 29) * 6),
      tree = makeRegionTree(planes, { mergeCost: BY_OUTLINE })
    const coarse = cutTree(tree, 5),
      fine = cutTree(tree, 20)
    expect(new Set(coarse).size).toBe(5)
    expect(new Set(fine).size).toBe(20)
    const home = new Map<number, number>()
    fine.forEach((region, basin) => {
      expect(home.get(region) ?? coarse[basin]).toBe(coarse[basin])
      home.set(region, coarse[basin])
    })
    for (const most of [50, 300])
      for (const region of new Set(cutTreeByArea(tree, most)))
        if (region >= tree.basins) expect(tree.area[region]).toBeLessThanOrEqual(most)
    for (let i = tree.basins + 1; i < tree.mergeCost.length; i++)
      expect(tree.mergeCost[i]).toBeGreaterThanOrEqual(tree.mergeCost[i - 1])
  })
  it('what lies between thin bars belongs to what lies around them', () => {
    // A ladder before a wall, its colours not quite even.
    const bar = (x: number, y: number) =>
        (x > 140 && x < 144) || (x > 180 && x < 184) || (x > 140 && x < 184 && y % 24 < 3),
      planes = labPlanes(greyPicture(320, 480, (x, y) => (bar(x, y) ? 60 : 180) + ((x * 5 + y * 3) % 7)))
    const tree = makeRegionTree(planes, { mergeCost: BY_OUTLINE }),
      top = cutTree(tree, 2),
      at = (x: number, y: number) => top[tree.basinOf[y * 320 + x]]
    expect(at(160, 12)).toBe(at(10, 100))
    expect(at(160, 204)).toBe(at(310, 30))
    expect(at(142, 100)).not.toBe(at(10, 100))
    expect(at(160, 241)).toBe(at(142, 100))
  })
})

describe('what stands out', () => {
  const within = (x: number, y: number) => x >= 60 && x < 140 && y >= 40 && y < 110,
    grain = (x: number, y: number) => (x * 5 + y * 3) % 7
  it('holds together in the tree, however unlike its parts are', () => {
    // A thing half nearly as dark as the wall, half bright.
    const planes = labPlanes(greyPicture(200, 150, (x, y) => (within(x, y) ? (x < 100 ? 70 : 230) : 50) + grain(x, y))),
      stands = Uint8Array.from({ length: 200 * 150 }, (_, i) => (within(i % 200, (i / 200) | 0) ? 1 : 0))
    const parted = (standsOut?: Uint8Array) => {
      const tree = makeRegionTree(planes, { mergeCost: BY_OUTLINE, standsOut }),
        top = cutTree(tree, 2)
      return (x: number, y: number) => top[tree.basinOf[y * 200 + x]]
    }
    const alone = parted(),
      told = parted(stands)
    expect(alone(80, 70)).toBe(alone(10, 10))
    expect(told(80, 70)).toBe(told(120, 70))
    expect(told(80, 70)).not.toBe(told(10, 10))
  })
  it('is left without what sticks out into its surroundings, and otherwise as it is', () => {
    const table = (x: number, y: number) => y > 100 && x < 60,
      planes = labPlanes(greyPicture(200, 150, (x, y) => (within(x, y) ? 200 : y > 90 ? 90 : 60) + grain(x, y)))
    const tree = makeRegionTree(planes),
      graph = regionGraph(tree, planes, 300),
      cut = (inside: (x: number, y: number) => boolean) =>
        Uint8Array.from({ length: 200 * 150 }, (_, i) => (inside(i % 200, (i / 200) | 0) ? INSIDE : OUTSIDE))
    const thing = cut(within),
      tongue = cut((x, y) => within(x, y) || table(x, y))
    expect(dropOverhangs(thing, graph, tree)).toBe(false)
    expect(thing).toEqual(cut(within))
    expect(dropOverhangs(tongue, graph, tree)).toBe(true)
    let left = 0,
      kept = 0
    tongue.forEach((side, i) => {
      if (side === INSIDE) {
        if (within(i % 200, (i / 200) | 0)) kept++
        else left++
      }
    })
    expect(kept).toBeGreaterThan(0.99 * 80 * 70)
    expect(left).toBeLessThan(0.2 * 49 * 60)
  })
  it('keeps a second thing, however faint its outline', () => {
    const faint = (x: number, y: number) => x >= 160 && x < 190 && y >= 20 && y < 80,
      planes = labPlanes(greyPicture(200, 150, (x, y) => (within(x, y) ? 200 : faint(x, y) ? 80 : 60) + grain(x, y)))
    const tree = makeRegionTree(planes),
      state = Uint8Array.from({ length: 200 * 150 }, (_, i) =>
        within(i % 200, (i / 200) | 0) || faint(i % 200, (i / 200) | 0) ? INSIDE : OUTSIDE,
      ),
      before = state.slice()
    expect(dropOverhangs(state, regionGraph(tree, planes, 300), tree)).toBe(false)
    expect(state).toEqual(before)
  })
})

describe('walks over regions', () => {
  it('on a row of one tone the probability falls evenly (the gambler’s ruin)', () => {
    const kept = new Float32Array([1, NaN, NaN, NaN, 0])
    randomWalk(row([50, 50, 50, 50, 50]), kept, new Float32Array(5)).forEach((p, i) =>
      expect(p).toBeCloseTo(1 - i / 4, 2),
    )
  })
  it('a strong boundary keeps the walk on its side', () => {
    const p = randomWalk(row([50, 50, 90, 90]), new Float32Array([1, NaN, NaN, 0]), new Float32Array(4))
    expect(p[1]).toBeGreaterThan(0.99)
    expect(p[2]).toBeLessThan(0.01)
  })
  it('geodesic distance adds up differences beyond shading, whichever way is shorter', () => {
    expect([...geodesicDistance(row([0, 10, 11, 30]), new Float32Array([0, Infinity, Infinity, 5]), 2)]).toEqual([
      0, 8, 8, 5,
    ])
  })
})

describe('what stands out', () => {
  it('a thing in the middle has no part in the border, its surroundings have', () => {
    const planes = labPlanes(greyPicture(60, 40, (x, y) => (Math.hypot(x - 30, y - 20) < 10 ? 220 : 90))),
      graph = regionGraph(makeRegionTree(planes), planes, 12)
    const { background, contrast } = saliency(graph, planes, 2),
      thing = graph.regionOf[20 * 60 + 30],
      around = graph.regionOf[0]
    expect(background[thing]).toBeLessThan(0.05)
    expect(background[around]).toBeGreaterThan(0.9)
    expect(contrast[thing]).toBeGreaterThan(contrast[around])
  })
  it('colours inside and outside overlap fully when they are the same, not at all when they are apart', () => {
    const two = labPlanes(greyPicture(20, 10, (x) => (x < 10 ? 40 : 200))),
      state = Uint8Array.from({ length: 200 }, (_, i) => (i % 20 < 10 ? INSIDE : OUTSIDE))
    expect(colourOverlap(state, two)).toBe(0)
    expect(colourOverlap(state, labPlanes(greyPicture(20, 10, () => 90)))).toBeCloseTo(1, 9)
  })
})

describe('pieces', () => {
  const map = (rows: string[]) => Uint8Array.from(rows.join(''), (c) => (c === '#' ? INSIDE : OUTSIDE)),
    rows = ['##...#', '##..#.', '......', '#.....'],
    size = { width: 6, height: 4 }
  it('hang together by sides and corners', () => {
    expect(piecesOf(map(rows), size, INSIDE).areas).toEqual([4, 2, 1])
  })
  it('what is near is a square around each', () => {
    expect([...nearAny(map(['#....', '.....', '...#.']), (v) => v === INSIDE, 5, 3, 1)].join('')).toBe(
      '110001111100111',
    )
  })
  it('an object keeps what is as large as it nearly, and small pieces only beside it', () => {
    const wide = { width: 200, height: 100 },
      state = new Uint8Array(20_000).fill(OUTSIDE)
    const box = (x: number, y: number, w: number, h: number) => {
      for (let v = y; v < y + h; v++) state.fill(INSIDE, v * 200 + x, v * 200 + x + w)
    }
    box(10, 10, 60, 60)
    box(120, 10, 50, 50)
    box(72, 30, 2, 2)
    box(100, 90, 2, 2)
    keepObject(state, () => 0, false, wide)
    expect([state[40 * 200 + 40], state[30 * 200 + 140], state[30 * 200 + 72], state[90 * 200 + 100]]).toEqual([
      INSIDE,
      INSIDE,
      INSIDE,
      OUTSIDE,
    ])
  })
})
