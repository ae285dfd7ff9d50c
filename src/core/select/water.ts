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

/** How much of a picture looks like water, 0-1: quick, and not yet along edges. */
export function waterShare(scene: Scene, sample: Sample, context: Context): number {
  if (context.network === false) return 0
  const { expected, given } = lookAt(segmentView(scene, sample, context))
  return expected.reduce((sum, nats, i) => sum + (nats > 0 && given[i] !== OUTSIDE ? 1 : 0), 0) / expected.length
}

/** What is expected on the small level, nats, and what is given there. */
function lookAt({ levels }: SegmentView): { expected: Float32Array; given: Uint8Array } {
  const small = levels.at(-1)!
  return {
    given: opaqueOnly(small),
    expected: atEachPixel(waterLikelihood(small), small, 0).map((nats) => Math.max(-SUREST, Math.min(SUREST, nats))),
  }
}

/** The water in a picture; or why there is none. */
function waterIn(scene: Scene, sample: Sample, context: Context): Matte | string {
  if (context.network === false) return 'only the network knows water, and it is switched off'
  const view = segmentView(scene, sample, context),
    { expected, given } = lookAt(view)
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
    sum = new Float32Array(areas.length)
  for (let i = 0; i < state.length; i++) if (pieceOf[i] >= 0) sum[pieceOf[i]] += expected[i]
  for (let i = 0; i < state.length; i++)
    if (pieceOf[i] >= 0 && (sum[pieceOf[i]] <= 0 || areas[pieceOf[i]] < LEAST_PIECE * state.length)) state[i] = OUTSIDE
}
