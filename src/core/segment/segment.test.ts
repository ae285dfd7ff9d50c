/** The parts that finders by object are made of, against closed forms, exhaustive search and pictures with one answer. */
import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { halvePicture } from '../raster/levels'
import { type Picture } from '../raster/picture'
import { colourOverlap } from './colourOverlap'
import { cutGrid, INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { outOfFocus } from './focus'
import { keepObject } from './keepObject'
import { type LabPlanes, labPlanes } from './labPlanes'
import { wireBetween, wires } from './liveWire'
import { fitMixture, mixtureCost } from './mixture'
import { nearAny } from '../raster/nearAny'
import { piecesOf } from './pieces'
import { randomWalk } from './randomWalk'
import { geodesicDistance, regionGraph, type RegionGraph } from './regionGraph'
import { dropOverhangs } from './overhangs'
import { BY_OUTLINE } from './mergeCost'
import { cutTree, cutTreeByArea, makeRegionTree } from './regionTree'
import { saliency } from './saliency'

const greyPicture = (width: number, height: number, at: (x: number, y: number) => number): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < width * height; i++) {
    const v = at(i % width, Math.floor(i / width))
    data.set([v, v, v, 255], i * 4)
  }
  return { width, height, data }
}

describe('mixtures', () => {
  it('one component is the Gaussian of the samples, its density that of the textbook', () => {
    // Mean 0, variance 4 along each axis (± 2); 2.5 is added for grain.
    const samples = new Float32Array([2, -2, 0, 0, 0, 0, 0, 0, 2, -2, 0, 0, 0, 0, 0, 0, 2, -2]),
      variance = 4 / 3 + 2.5
    const mixture = fitMixture(samples, new Float32Array(6).fill(1), 1)
    expect(mixtureCost(mixture, 1, 2, 3)).toBeCloseTo(1.5 * Math.log(2 * Math.PI * variance) + 14 / (2 * variance), 5)
  })
  it('two heaps are told apart, weighted as they are', () => {
    const samples = new Float32Array(300),
      weights = new Float32Array(100).fill(1)
    for (let i = 0; i < 100; i++)
      (i < 25 ? [50 + (i % 5), i % 3, 0] : [10 + (i % 5), 30 + (i % 3), 5]).forEach((value, k) => {
        samples[100 * k + i] = value
      })
    const mixture = fitMixture(samples, weights, 2)
    const [a, b] = [mixtureCost(mixture, 52, 1, 0), mixtureCost(mixture, 12, 31, 5)]
    expect(a - b).toBeCloseTo(Math.log(3), 1) // three times as many there
    expect(mixtureCost(mixture, 30, 15, 2)).toBeGreaterThan(a + 10)
  })
  it('without samples everything is equally improbable', () => {
    expect(mixtureCost(fitMixture(new Float32Array(0), new Float32Array(0), 3), 1, 2, 3)).toBe(Infinity)
  })
})

describe('focus', () => {
  const side = 240,
    stripes = (x: number, y: number) => 90 + 60 * Math.sign(Math.sin(x / 9)) + 30 * Math.sign(Math.sin(y / 13)),
    within = (x: number, y: number) => Math.abs(x - 120) < 60 && Math.abs(y - 120) < 60
  /** Stripes as a lens of so much blur (sigma, px) draws them: a step becomes the normal distribution, here the logistic one. */
  const seen = (blur: number) => (x: number, y: number) => {
    const soft = (t: number, period: number) => {
      const d = Math.asin(Math.sin(t / period)) * period
      return 2 / (1 + Math.exp((-1.7 * d) / Math.max(0.1, blur))) - 1
    }
    return 90 + 60 * soft(x, 9) + 30 * soft(y, 13)
  }
  const blurredIn = (at: (x: number, y: number) => number) => {
    const full = greyPicture(side, side, at),
      small = halvePicture(full),
      lab = labPlanes(small),
      graph = regionGraph(makeRegionTree(lab), lab, 150),
      out = outOfFocus(
        graph,
        [full, small],
        graph.middle.filter((_, i) => i % 2 === 0).map((x) => (x < 12 ? 1 : 0)),
      )
    return out && ((x: number, y: number) => out[graph.regionOf[(y >> 1) * (side / 2) + (x >> 1)]])
  }
  it('parts a sharp thing from a blurred ground', () => {
    const blurred = blurredIn((x, y) => (within(x, y) ? stripes(x, y) : seen(5)(x, y)))!
    const share = (inside: boolean) => {
      let sum = 0,
        count = 0
      for (let y = 4; y < side; y += 8)
        for (let x = 4; x < side; x += 8)
          if (within(x, y) === inside && Math.abs(Math.max(Math.abs(x - 120), Math.abs(y - 120)) - 60) > 12) {
            sum += blurred(x, y)
            count++
          }
      return sum / count
    }
    expect(share(false)).toBeGreaterThan(0.9)
    expect(share(true)).toBeLessThan(0.1)
  })
  it('says nothing where all is sharp, and where nothing is', () => {
    expect(blurredIn(stripes)).toBeNull()
    expect(blurredIn(seen(5))).toBeNull()
  })
})

describe('the cut of pixels', () => {
  it('is the cheapest of all labellings of a small picture', () => {
    const width = 4,
      height = 3,
      count = width * height
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 255 }), { minLength: count, maxLength: count }),
        fc.array(fc.integer({ min: -4, max: 4 }), { minLength: count, maxLength: count }),
        (greys, evidence) => {
          const lab = labPlanes(greyPicture(width, height, (x, y) => greys[y * width + x])),
            contrast = 400,
            smoothness = 2
          const state = new Uint8Array(count)
          cutGrid(lab, {
            state,
            words: lab.words,
            contrast,
            smoothness,
            evidence: (from, n, out, at) => out.set(evidence.slice(from, from + n), at),
          })
          const energy = (inside: (i: number) => boolean): number => {
            let sum = 0
            for (let i = 0; i < count; i++) {
              if (inside(i) !== evidence[i] > 0) sum += Math.abs(evidence[i])
              const x = i % width,
                y = Math.floor(i / width)
              for (const [dx, dy] of [
                [1, 0],
                [0, 1],
                [1, 1],
                [-1, 1],
              ])
                if (x + dx >= 0 && x + dx < width && y + dy < height && inside(i) !== inside(i + dy * width + dx))
                  sum +=
                    (smoothness / Math.hypot(dx, dy)) *
                    Math.exp(-((lab.L[i] - lab.L[i + dy * width + dx]) ** 2) / (2 * contrast))
            }
            return sum
          }
          let least = Infinity
          for (let bits = 0; bits < 1 << count; bits++)
            least = Math.min(
              least,
              energy((i) => Boolean(bits & (1 << i))),
            )
          expect(energy((i) => state[i] === INSIDE)).toBeLessThan(least + 0.6) // capacities are whole 64ths
        },
      ),
      { numRuns: 12 },
    )
  })
  it('leaves what is given as it is', () => {
    const state = new Uint8Array(25).fill(UNDECIDED),
      lab = labPlanes(greyPicture(5, 5, () => 100))
    state[12] = INSIDE
    state[0] = OUTSIDE
    cutGrid(lab, {
      state,
      contrast: 10,
      smoothness: 1,
      words: lab.words,
      evidence: (_, n, out, at) => out.fill(-2, at, at + n),
    })
    expect(state[12]).toBe(INSIDE)
    expect([...state].filter((s) => s === OUTSIDE).length).toBe(24)
  })
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
