/**
 * The edge of a selection as a matte: a band on either side is solved from what is sure beyond it, then strokes in their order, each
 * where it lies; what comes out is rounded, softened, crisped and moved without being solved again.
 * The solvers and their sources stand in core/matting.
 */
import { THINGS_VERSION } from '../../network/network'
import { edge as edgeStep, type EdgeStroke, type EdgeFields } from '../../steps/modifiers/edge'
import { type Memory } from '../../cache/lruCache'
import { bandAlong, MIDDLE } from '../../matting/band'
import { followFineThings } from '../../matting/fineThings'
import { keepMiddles } from '../../matting/middles'
import { type Solver } from '../../fields/solver'
import { CONTEXT, solveUnknown, type Work } from '../../matting/solveUnknown'
import { cropPicture, cropRows } from '../../raster/crop'
import { nearestSetPixels } from '../../raster/distance'
import { gaussianBlur } from '../../raster/gaussian'
import { grow } from '../../raster/grow'
import { type Matte, type Picture } from '../../raster/picture'
import { tallyOf } from '../../raster/tally'
import { wordsOf } from '../../raster/wordsOf'
import { coverMarks } from '../../segment/strokes'
import { boundsOfPoints } from '../../raster/bounds'
import { frameAround } from '../../segment/view'
import { type Context, type Modifier, type Scene } from '../finder'
import { featherMatte } from './feather'

/** Beside empty and full what counts as that. */
const ALMOST = 5
/** Around what is kept or dropped the open pixels are solved anew so far, as a share of the stroke's size and px at least. */
const AROUND = 1,
  LEAST_AROUND = 12

export const edge: Modifier<'edge', EdgeFields> = {
  ...edgeStep,
  version: THINGS_VERSION,
  note(matte, { reach, strokes }) {
    if (reach === 0 && !strokes.length) return undefined
    const { selected } = tallyOf(matte)
    if (selected === 0) return 'There is no edge to solve, because nothing is selected.'
    if (selected === 1) return 'There is no edge to solve, because everything is selected.'
    return undefined
  },
  modify(matte, params, context, scene) {
    const { matte: solved } = solveStrokes(matte, params, context, scene)
    return shaped(solved, params)
  },
}

/** What stands after the band and some of the strokes: coverage, and which pixels are open to be solved. */
interface Solved {
  readonly matte: Matte
  readonly open: Uint8Array
}

/** The band, then stroke by stroke; each stage is remembered, so that one more stroke takes the time of that stroke. */
function solveStrokes(
  matte: Matte,
  { reach, follow, strokes, solver }: EdgeFields,
  context: Context,
  scene: Scene,
): Solved {
  const name = (count: number) =>
    `edge ${scene.identity('all')} ${fingerprint} ${reach} ${follow} ${solver}${context.network === false ? ' without network' : ''} ${JSON.stringify(strokes.slice(0, count))}`
  const fingerprint = fingerprintOf(matte.data),
    memory: Memory = context.memory
  let known = strokes.length,
    solved: Solved | undefined
  while (!(solved = memory.get<Solved>(name(known))) && known > 0) known--
  const stages = strokes.length - known + (solved ? 0 : 1),
    keep = (value: Solved, count: number) => memory.set(name(count), value, value.open.byteLength * 2)
  let stage = 0
  const check = (progress: number) => context.check((stage + progress) / stages)
  if (!solved) {
    solved = solveBand(scene.picture('all'), matte, reach, follow, solver, { ...context, check })
    keep(solved, 0)
    stage++
  }
  for (let k = known; k < strokes.length; k++, stage++) {
    solved = solveStroke(scene.picture('all'), solved, strokes[k], solver, { ...context, check })
    if (k === strokes.length - 1) keep(solved, k + 1)
  }
  return solved
}

function solveBand(picture: Picture, matte: Matte, reach: number, follow: boolean, solver: Solver, work: Work): Solved {
  const out: Matte = { ...matte, data: matte.data.slice() },
    part = (from: number, to: number) => (progress: number) => work.check(from + (to - from) * progress),
    open = reach > 0 ? bandAlong(matte, reach, work.crew, part(0, 0.04)) : new Uint8Array(matte.data.length)
  if (reach > 0) {
    tellPlainly(out.data, open)
    keepMiddles(matte, open, reach, work.crew, part(0.04, 0.16))
    if (follow) followFineThings(picture, matte, open, reach, work.crew, part(0.16, 0.2))
    solveUnknown(picture, out, open, solver, { ...work, check: part(0.2, 1) })
  }
  return { matte: out, open }
}

/** What is all but full or empty beyond the band becomes that, in place: the solver takes it for sure. */
function tellPlainly(coverage: Uint8Array, open: Uint8Array): void {
  const tell = (from: number, to: number) => {
    for (let i = from; i < to; i++)
      if (!open[i] && (coverage[i] < ALMOST || coverage[i] > 255 - ALMOST)) coverage[i] = coverage[i] < ALMOST ? 0 : 255
  }
  const words = wordsOf(coverage)
  for (let k = 0; k < words.length; k++) if (words[k] !== 0 && words[k] !== 0xffffffff) tell(4 * k, 4 * k + 4)
  tell(4 * words.length, coverage.length)
}

/** Unsure opens what it covers; keep and drop pin it, and what is open around is solved anew. Only what lies around the stroke is looked at. */
function solveStroke(picture: Picture, solved: Solved, stroke: EdgeStroke, solver: Solver, work: Work): Solved {
  const around = stroke.mode === 'unsure' ? 0 : Math.max(LEAST_AROUND, AROUND * stroke.size),
    part = stroke.points.length
      ? frameAround(boundsOfPoints(stroke.points), 0, stroke.size / 2 + around + CONTEXT + 2, picture)
      : null
  if (!part) return solved
  const crop = (from: Uint8Array) => cropRows(from, picture.width, part, new Uint8Array(part.width * part.height)),
    piece: Matte = { width: part.width, height: part.height, data: crop(solved.matte.data) },
    open = crop(solved.open)
  const covered = coverMarks([stroke], part, 0, piece).data,
    asked = new Uint8Array(open.length)
  if (stroke.mode === 'unsure') {
    for (let i = 0; i < asked.length; i++) if (covered[i] >= MIDDLE) asked[i] = open[i] = 1
  } else {
    const value = stroke.mode === 'keep' ? 255 : 0
    for (let i = 0; i < asked.length; i++)
      if (covered[i] >= MIDDLE) {
        piece.data[i] = value
        open[i] = 0
      }
    nearestSetPixels(
      covered.map((c) => (c >= MIDDLE ? 1 : 0)),
      piece,
      around,
      (y, nearest, from, to) => {
        for (let x = from, i = y * part.width + from; x < to; x++, i++) if (nearest[x] >= 0 && open[i]) asked[i] = 1
      },
    )
  }
  solveUnknown(cropPicture(picture, part), piece, asked, solver, work)
  const put = (whole: Uint8Array, from: Uint8Array) => {
    const out = whole.slice()
    for (let y = 0; y < part.height; y++)
      out.set(from.subarray(y * part.width, (y + 1) * part.width), (part.y + y) * picture.width + part.x)
    return out
  }
  return { matte: { ...solved.matte, data: put(solved.matte.data, piece.data) }, open: put(solved.open, open) }
}

/** What is made of the solved matte without solving again. */
function shaped(solved: Matte, { smooth, feather, crispness, offset }: EdgeFields): Matte {
  let matte: Matte = { ...solved, data: solved.data.slice() }
  if (smooth > 0) matte = roundedOff(matte, smooth)
  if (feather > 0) matte = featherMatte(matte, feather)
  if (crispness > 0) {
    const steep = 1 / Math.max(1 / 256, 1 - crispness),
      crisp = Uint8Array.from({ length: 256 }, (_, v) =>
        Math.max(0, Math.min(255, Math.round(127.5 + (v - 127.5) * steep))),
      )
    for (let i = 0; i < matte.data.length; i++) matte.data[i] = crisp[matte.data[i]]
  }
  return offset === 0 ? matte : grow(matte, offset)
}

/** Blurred by `radius` and made as crisp again, where the surroundings are hard; soft parts (hair, gauze) stay as they are. */
function roundedOff(matte: Matte, radius: number): Matte {
  const blurred = gaussianBlur(matte, radius / 2),
    steep = Math.max(1, (radius / 2) * Math.sqrt(2 * Math.PI))
  const softness = gaussianBlur(
    { ...matte, data: matte.data.map((v) => (v > 20 && v < 235 ? 255 : 0)) },
    Math.max(3, radius),
  )
  for (let i = 0; i < matte.data.length; i++) {
    const before = matte.data[i],
      crisp = Math.max(0, Math.min(255, 127.5 + (blurred.data[i] - 127.5) * steep))
    if (before === 0 && crisp === 0) continue
    // A hard outline is soft in one pixel across: a tenth of what is near. From a third on it is hair.
    const hard = Math.max(0, Math.min(1, (90 - softness.data[i]) / 50))
    matte.data[i] = before + hard * (crisp - before) + 0.5
  }
  return matte
}

/** Tells mattes apart: two 32-bit sums over their words (after FNV-1a; common practice). */
function fingerprintOf(data: Uint8Array): string {
  const words = wordsOf(data)
  let a = 0x811c9dc5,
    b = 0
  for (let i = 0; i < words.length; i++) {
    a = Math.imul(a ^ words[i], 0x01000193)
    b = (Math.imul(b, 31) + words[i]) | 0
  }
  for (let i = words.length * 4; i < data.length; i++) a = Math.imul(a ^ data[i], 0x01000193)
  return `${data.length} ${a >>> 0} ${b >>> 0}`
}
