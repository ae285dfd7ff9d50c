import { describe, expect, it } from 'vitest'
import { greyPicture } from '../../../tests/setups/greyPicture'
import { words } from '../raster/picture'
import { ColourEvidence } from './colourEvidence'
import { INSIDE, UNDECIDED } from './gridCut'
import { labPlanes } from './labPlanes'
import { learnBoth } from './learnColours'
import { cutSmall, tellingApart } from './objectCut'

const SIDE = 160,
  left = (i: number) => i % SIDE < SIDE / 2

/** A picture of two halves, its colours learnt from them. */
function halves(at: (x: number, y: number) => number) {
  const picture = greyPicture(SIDE, SIDE, at),
    lab = labPlanes(picture),
    guess = Float32Array.from({ length: SIDE * SIDE }, (_, i) => (left(i) ? 1 : 0)),
    { inside, outside } = learnBoth(
      lab,
      guess,
      guess.map((v) => 1 - v),
    )
  return { picture, lab, guess, colours: new ColourEvidence(inside, outside) }
}

describe('how far colours tell apart what is expected', () => {
  it('in full where each side has its own, not at all where both have the same', () => {
    const own = halves((x) => (x < SIDE / 2 ? 60 : 180)),
      same = halves((x, y) => ((x >> 1) % 2 === (y >> 1) % 2 ? 60 : 180))
    expect(tellingApart(own.colours, words(own.picture), own.guess)).toBe(1)
    expect(tellingApart(same.colours, words(same.picture), same.guess)).toBeLessThan(0.05)
  })
  it('a side weighs as much as the other, however small it is', () => {
    // A tenth is inside; half of that looks like what is outside: right of 50 % and of 100 %.
    const picture = greyPicture(SIDE, SIDE, (x) => (x < SIDE / 20 ? 60 : 180)),
      guess = Float32Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE < SIDE / 10 ? 1 : 0)),
      { inside, outside } = learnBoth(
        labPlanes(picture),
        guess,
        guess.map((v) => 1 - v),
      )
    expect(tellingApart(new ColourEvidence(inside, outside), words(picture), guess)).toBeCloseTo((0.75 - 0.5) / 0.3, 2)
  })
  it('where nothing is expected on one side they count as ever', () => {
    const { colours, picture } = halves((x) => (x < SIDE / 2 ? 60 : 180))
    expect(tellingApart(colours, words(picture), new Float32Array(SIDE * SIDE))).toBe(1)
  })
})

describe('a cut on the small level', () => {
  /** The left half is expected; of it 66 % are dark, of the right half 34 %. How much of the picture comes out as expected. */
  const asExpected = (doubtColours: boolean) => {
    const { lab, guess } = halves((x, y) => (y < (x < SIDE / 2 ? 0.66 : 0.34) * SIDE ? 60 : 180)),
      { state } = cutSmall(
        {
          lab,
          given: new Uint8Array(SIDE * SIDE).fill(UNDECIDED),
          guess,
          weight: new Float32Array(SIDE * SIDE).fill(1),
          expected: guess.map((v) => 0.62 * (2 * v - 1)),
          doubtColours,
        },
        () => undefined,
      )
    return state.filter((side, i) => (side === INSIDE) === left(i)).length / state.length
  }
  it('is not led away by colours that tell little apart, as it would be if they counted in full', () => {
    expect(asExpected(true)).toBeGreaterThan(0.99)
    expect(asExpected(false)).toBeLessThan(0.75)
  })
})
