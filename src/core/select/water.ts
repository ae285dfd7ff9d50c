/**
 * Water: where the network takes what it sees for water, cut along edges. It has learnt what mirrors something from pictures with water drawn into them
 * (training/water.py). Colours alone tell little: water has those of the sky and the shore. So what is surely expected stays, and they decide near its edge.
 * Source of the cut: Boykov and Jolly, ICCV 2001.
 */
import { water as waterStep } from '../steps/water'
import { atEachPixel, likely, waterLikelihood } from '../network/likelihood'
import { mapInto } from '../raster/mapInto'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { tallyOf } from '../raster/tally'
import { EXPECTED, sureOf, SUREST } from '../segment/expectation'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { cutSmall, refine } from '../segment/objectCut'
import { opaqueOnly } from '../segment/opaqueOnly'
import { piecesOf } from '../segment/pieces'
import { stateToMatte } from '../segment/softEdge'
import { type SegmentView, segmentView } from '../segment/view'
import { type Sample } from '../steps/step'
import { type Context, type Finder, type Found, type Scene } from './finder'

/** Less of the picture than this is a speck. */
const LEAST = 0.002
/** The same of a piece beside others. */
const LEAST_PIECE = 0.0005

export const water: Finder<'water', object> = {
  ...waterStep,
  find(scene, params, context): Found {
    const found = waterIn(scene, params.sample, context)
    return typeof found === 'string'
      ? { ...emptyMatte(scene), note: `Nothing found, because ${found}.` }
      : { ...found, note: `Water is ${(100 * tallyOf(found).selected).toFixed(0)} % of the picture.` }
  },
}

/** A piece is water for sure when it looks like it with these odds throughout (mean, nats): meadows and sand that look like it do so by less (docs/QUALITY.md). */
const SURE = 4.5
/** Who asks for water has seen some: odds before the picture is looked at, nats. Chosen on ray-traced places (docs/QUALITY.md). */
const ASKED = 1

/** Shares of a picture, 0-1. */
export interface WaterSeen {
  /** What looks like water. */ readonly looks: number
  /** The part of that which is water for sure. */ readonly sure: number
}

/** How much water there is: quick, and not yet along edges. */
export function waterSeen(scene: Scene, sample: Sample, context: Context): WaterSeen {
  if (context.network === false) return { looks: 0, sure: 0 }
  const view = segmentView(scene, sample, context),
    { expected, given } = lookAt(view),
    looks = Uint8Array.from(expected, (nats, i) => (nats > 0 && given[i] !== OUTSIDE ? 1 : 0)),
    { pieceOf, areas } = piecesOf(looks, view.levels.at(-1)!, 1),
    sums = summed(expected, pieceOf, areas.length),
    share = (counts: (piece: number) => boolean) =>
      areas.reduce((sum, area, piece) => sum + (counts(piece) ? area : 0), 0) / looks.length
  return { looks: share(() => true), sure: share((piece) => sums[piece] >= SURE * areas[piece]) }
}

/** Of each piece, what is expected there, added up. */
function summed(expected: Float32Array, pieceOf: Int32Array, count: number): Float32Array {
  const sums = new Float32Array(count)
  for (let i = 0; i < pieceOf.length; i++) if (pieceOf[i] >= 0) sums[pieceOf[i]] += expected[i]
  return sums
}

/** What is expected on the small level, nats, and what is given there. */
function lookAt({ levels }: SegmentView): { expected: Float32Array; given: Uint8Array } {
  const small = levels.at(-1)!
  return {
    given: opaqueOnly(small),
    expected: atEachPixel(waterLikelihood(small), small, 0),
  }
}

/** The water in a picture; or why there is none. */
function waterIn(scene: Scene, sample: Sample, context: Context): Matte | string {
  if (context.network === false) return 'only the network knows water, and it is switched off'
  const view = segmentView(scene, sample, context),
    { expected: seen, given } = lookAt(view),
    expected = seen.map((nats) => Math.max(-SUREST, Math.min(SUREST, nats + ASKED)))
  context.check(0.3)
  if (!expected.some((nats, i) => nats > 0 && given[i] !== OUTSIDE)) return 'nothing in it looks like water'
  const { state, models } = cutSmall(
    {
      lab: view.lab,
      given,
      guess: mapInto(new Float32Array(given.length), given, (g, i) => (g === OUTSIDE ? 0 : likely(expected[i]))),
      weight: new Float32Array(given.length).fill(1),
      expected: expected.map((nats) => EXPECTED * nats),
      tidy: (s) => keepExpected(s, expected, view.lab),
    },
    (p) => context.check(0.3 + 0.3 * p),
  )
  if (!state.includes(INSIDE)) return 'what looks like water is smaller than a speck'
  const full = refine(state, { levels: view.levels, models, sure: sureOf(expected, state) }, (p) =>
    context.check(0.6 + 0.35 * p),
  )
  const found = stateToMatte(full, view, scene, true)
  return tallyOf(found).selected < LEAST ? 'what looks like water is smaller than a speck' : found
}

/** Takes out pieces that nothing but their colours speaks for, and specks. */
function keepExpected(state: Uint8Array, expected: Float32Array, size: Size): void {
  const { pieceOf, areas } = piecesOf(state, size, INSIDE),
    sum = summed(expected, pieceOf, areas.length)
  for (let i = 0; i < state.length; i++)
    if (pieceOf[i] >= 0 && (sum[pieceOf[i]] <= 0 || areas[pieceOf[i]] < LEAST_PIECE * state.length)) state[i] = OUTSIDE
}
