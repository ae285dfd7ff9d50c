import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { randomOf } from '../../../tests/madeUp/random'
import { type Lab, labOf } from '../colour/lab'
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { halvePicture } from '../raster/levels'
import { cutGrid, INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { outOfFocus } from './focus'
import { labPlanes } from './labPlanes'
import { fitMixture, mixtureCost, withShadows } from './mixture'
import { regionGraph } from './regionGraph'
import { makeRegionTree } from './regionTree'
import { greyPicture } from '../../../tests/setups/greyPicture'

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
  it('with shadows: a colour with less light on it is likelier, another hue is not, and it remains a density', () => {
    const random = randomOf(8),
      under = (light: number, bytes: readonly number[]): Lab =>
        labOf(...(bytes.map((v) => byteOfLinear(light * LINEAR_OF_BYTE[v])) as Lab))
    const cloth = Array.from({ length: 400 }, () => under(random.between(0.8, 1), [200, 140, 80])),
      samples = Float32Array.from([0, 1, 2].flatMap((k) => cloth.map((colour) => colour[k]))),
      plain = fitMixture(samples, new Float32Array(cloth.length).fill(1), 3),
      mixture = withShadows(plain)
    for (const light of [0.7, 0.5, 0.35]) {
      const shaded = under(light, [190, 133, 76]),
        other = under(light, [140, 140, 140])
      expect(mixtureCost(mixture, ...shaded)).toBeLessThan(12)
      expect(mixtureCost(plain, ...shaded)).toBeGreaterThan(mixtureCost(mixture, ...shaded) + 3)
      expect(mixtureCost(mixture, ...other)).toBeGreaterThan(mixtureCost(mixture, ...shaded) + 8)
    }
    expect(mixtureCost(mixture, ...cloth[0]) - mixtureCost(plain, ...cloth[0])).toBeLessThan(0.2)
    let sum = 0
    for (let L = 0; L < 100; L++)
      for (let a = -20; a < 60; a++)
        for (let b = -20; b < 80; b++) sum += Math.exp(-mixtureCost(mixture, L + 0.5, a + 0.5, b + 0.5))
    expect(sum).toBeCloseTo(1, 2)
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
