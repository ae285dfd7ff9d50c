/**
 * The edge of a selection as a matte: a band on either side is solved from what is sure beyond it, then strokes in their order, each
 * where it lies; what comes out is rounded, softened, crisped and moved without being solved again.
 * The solvers and their sources stand in core/matting.
 */
import { flag, number, oneOf } from '../../common/fields'
import { type Memory } from '../../common/memory'
import { CONTEXT, type Solver, solveUnknown, SOLVERS } from '../../matting/solveUnknown'
import { LINEAR_OF_BYTE } from '../../colour/srgb'
import { noiseOf } from '../../matting/noise'
import { cropPicture, cropRows } from '../../raster/crop'
import { nearestSetPixels } from '../../raster/distance'
import { gaussianBlur } from '../../raster/gaussian'
import { grow } from '../../raster/grow'
import { type Matte, type Picture, shares } from '../../raster/picture'
import { coverMarks, type Mark, marks } from '../../segment/strokes'
import { boundsOfPoints } from '../../segment/bounds'
import { frameAround } from '../../segment/view'
import { type Context, type Modifier, type Scene } from '../finder'
import { featherMatte } from './feather'

export type EdgeStroke = Mark & { readonly mode: 'unsure' | 'keep' | 'drop' }
export interface EdgeFields {
  /** How far the edge is solved on either side, px; 0 leaves it as it is. */
  reach: number
  /** Fine things that cross the band's outer border are solved too, up to some way beyond it. */
  follow: boolean
  /** Rounds off what is smaller along the hard parts of the outline, px. */
  smooth: number
  feather: number
  /** 0 leaves coverage as it is, 1 makes it all or nothing. */
  crispness: number
  /** Moves the edge, px, out where positive. */
  offset: number
  /** Later ones go over earlier ones. */
  strokes: readonly EdgeStroke[]
  solver: Solver
}

/** Coverage on either side of which a pixel counts as full or empty when the edge is looked for. */
const MIDDLE = 128
/** The band is widened by this times its reach where things more lively than this times the grain cross its border. */
const WIDER = 5, LIVELY = 10
/** What was soft before lies in the band when it is so far from empty and full. */
const SOFT = 5
/** Around what is kept or dropped the open pixels are solved anew so far, as a share of the stroke's size and px at least. */
const AROUND = 1, LEAST_AROUND = 12

export const edge: Modifier<'edge', EdgeFields> = {
  kind: 'edge', finds: false, looksAtPixels: true,
  fields: { reach: number(0, 1000, 12), follow: flag(true), smooth: number(0, 100, 0), feather: number(0, 1000, 0), crispness: number(0, 1, 0), offset: number(-1000, 1000, 0), strokes: marks(['unsure', 'keep', 'drop'] as const, []), solver: oneOf(SOLVERS, 'closedForm') },
  note(matte, { reach, strokes }) {
    if (reach === 0 && !strokes.length) return undefined
    const { selected } = shares(matte)
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
interface Solved { readonly matte: Matte; readonly open: Uint8Array }

/** The band, then stroke by stroke; each stage is remembered, so that one more stroke takes the time of that stroke. */
function solveStrokes(matte: Matte, { reach, follow, strokes, solver }: EdgeFields, context: Context, scene: Scene): Solved {
  const name = (count: number) => `edge ${scene.identity('all')} ${fingerprint} ${reach} ${follow} ${solver} ${JSON.stringify(strokes.slice(0, count))}`
  const fingerprint = fingerprintOf(matte.data), memory: Memory = context.memory
  let known = strokes.length, solved: Solved | undefined
  while (!(solved = memory.get<Solved>(name(known))) && known > 0) known--
  const stages = strokes.length - known + (solved ? 0 : 1), keep = (value: Solved, count: number) => memory.set(name(count), value, value.open.byteLength * 2)
  let stage = 0
  const check = (progress: number) => context.check((stage + progress) / stages)
  if (!solved) {
    solved = solveBand(scene.picture('all'), matte, reach, follow, solver, check)
    keep(solved, 0)
    stage++
  }
  for (let k = known; k < strokes.length; k++, stage++) {
    solved = solveStroke(scene.picture('all'), solved, strokes[k], solver, check)
    if (k === strokes.length - 1) keep(solved, k + 1)
  }
  return solved
}

/** Open are the pixels up to `reach` px from where coverage crosses the middle, and what was soft already and touches them. */
function solveBand(picture: Picture, matte: Matte, reach: number, follow: boolean, solver: Solver, check: (progress: number) => void): Solved {
  const { width, height } = matte, out: Matte = { width, height, data: matte.data.slice() }, open = new Uint8Array(width * height)
  if (reach > 0) {
    const rim = new Uint8Array(open.length), { data } = matte
    for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i++) {
      const inside = data[i] >= MIDDLE
      if ((x + 1 < width && inside !== data[i + 1] >= MIDDLE) || (y + 1 < height && inside !== data[i + width] >= MIDDLE)) { rim[i] = 1; if (y + 1 < height && inside !== data[i + width] >= MIDDLE) rim[i + width] = 1; if (x + 1 < width && inside !== data[i + 1] >= MIDDLE) rim[i + 1] = 1 }
    }
    const far = reach * reach
    nearestSetPixels(rim, matte, reach, (y, nearest) => {
      for (let x = 0, i = y * width; x < width; x++, i++) { const k = nearest[x]; if (k >= 0 && ((k % width) - x) ** 2 + (Math.floor(k / width) - y) ** 2 <= far) open[i] = 1 }
    })
    // Outside the band what is soft stays; right beside it the solver would take it for sure, so the known rim is told plainly.
    for (let i = 0; i < open.length; i++) if (!open[i] && data[i] > 0 && data[i] < 255 && (data[i] < SOFT || data[i] > 255 - SOFT)) out.data[i] = data[i] < SOFT ? 0 : 255
    if (follow) widen(picture, matte, open, reach)
    solveUnknown(picture, out, open, solver, check)
  }
  return { matte: out, open }
}

/** Opens fine things that cross the band's outer border (hair, spines): what varies more than grain, as far as it hangs together with the band. */
function widen(picture: Picture, matte: Matte, open: Uint8Array, reach: number): void {
  const { width, height, data } = picture, grain = noiseOf(picture, open) * LIVELY, far = (WIDER * reach) ** 2
  const near = new Uint8Array(open.length)
  nearestSetPixels(open, matte, WIDER * reach, (y, nearest) => { for (let x = 0, i = y * width; x < width; x++, i++) { const k = nearest[x]; if (k >= 0 && !open[i] && matte.data[i] < MIDDLE && ((k % width) - x) ** 2 + (Math.floor(k / width) - y) ** 2 <= far) near[i] = 1 } })
  const lively = (i: number): boolean => {
    let variance = 0
    for (let c = 0; c < 3; c++) {
      let sum = 0, squares = 0
      for (let dy = -width; dy <= width; dy += width) for (let dx = -1; dx <= 1; dx++) { const v = LINEAR_OF_BYTE[data[(i + dy + dx) * 4 + c]]; sum += v; squares += v * v }
      variance += squares / 9 - (sum / 9) ** 2
    }
    return variance > 3 * grain
  }
  const stack: number[] = []
  const reachFrom = (i: number) => { for (const j of [i - 1, i + 1, i - width, i + width]) { const x = j % width; if (near[j] && x > 0 && x < width - 1 && j >= width && j < width * (height - 1)) { near[j] = 0; if (lively(j)) { open[j] = 1; stack.push(j) } } } }
  for (let i = 0, count = open.length; i < count; i++) if (open[i]) reachFrom(i)
  while (stack.length) reachFrom(stack.pop()!)
}

/** Unsure opens what it covers; keep and drop pin it, and what is open around is solved anew. Only what lies around the stroke is looked at. */
function solveStroke(picture: Picture, solved: Solved, stroke: EdgeStroke, solver: Solver, check: (progress: number) => void): Solved {
  const around = stroke.mode === 'unsure' ? 0 : Math.max(LEAST_AROUND, AROUND * stroke.size), part = stroke.points.length ? frameAround(boundsOfPoints(stroke.points), 0, stroke.size / 2 + around + CONTEXT + 2, picture) : null
  if (!part) return solved
  const crop = (from: Uint8Array) => cropRows(from, picture.width, part, new Uint8Array(part.width * part.height)), piece: Matte = { width: part.width, height: part.height, data: crop(solved.matte.data) }, open = crop(solved.open)
  const covered = coverMarks([stroke], part, 0, piece).data, asked = new Uint8Array(open.length)
  if (stroke.mode === 'unsure') {
    for (let i = 0; i < asked.length; i++) if (covered[i] >= MIDDLE) asked[i] = open[i] = 1
  } else {
    const value = stroke.mode === 'keep' ? 255 : 0
    for (let i = 0; i < asked.length; i++) if (covered[i] >= MIDDLE) { piece.data[i] = value; open[i] = 0 }
    nearestSetPixels(covered.map((c) => (c >= MIDDLE ? 1 : 0)), piece, around, (y, nearest) => { for (let x = 0, i = y * part.width; x < part.width; x++, i++) if (nearest[x] >= 0 && open[i]) asked[i] = 1 })
  }
  solveUnknown(cropPicture(picture, part), piece, asked, solver, check)
  const put = (whole: Uint8Array, from: Uint8Array) => { const out = whole.slice(); for (let y = 0; y < part.height; y++) out.set(from.subarray(y * part.width, (y + 1) * part.width), (part.y + y) * picture.width + part.x); return out }
  return { matte: { ...solved.matte, data: put(solved.matte.data, piece.data) }, open: put(solved.open, open) }
}

/** What is made of the solved matte without solving again. */
function shaped(solved: Matte, { smooth, feather, crispness, offset }: EdgeFields): Matte {
  let matte: Matte = { ...solved, data: solved.data.slice() }
  if (smooth > 0) matte = roundedOff(matte, smooth)
  if (feather > 0) matte = featherMatte(matte, feather)
  if (crispness > 0) {
    const steep = 1 / Math.max(1 / 256, 1 - crispness), crisp = Uint8Array.from({ length: 256 }, (_, v) => Math.max(0, Math.min(255, Math.round(127.5 + (v - 127.5) * steep))))
    for (let i = 0; i < matte.data.length; i++) matte.data[i] = crisp[matte.data[i]]
  }
  return offset === 0 ? matte : grow(matte, offset)
}

/** Blurred by `radius` and made as crisp again, where the surroundings are hard; soft parts (hair, gauze) stay as they are. */
function roundedOff(matte: Matte, radius: number): Matte {
  const blurred = gaussianBlur(matte, radius / 2), steep = Math.max(1, (radius / 2) * Math.sqrt(2 * Math.PI))
  const softness = gaussianBlur({ ...matte, data: matte.data.map((v) => (v > 20 && v < 235 ? 255 : 0)) }, Math.max(3, radius))
  for (let i = 0; i < matte.data.length; i++) {
    const before = matte.data[i], crisp = Math.max(0, Math.min(255, 127.5 + (blurred.data[i] - 127.5) * steep))
    if (before === 0 && crisp === 0) continue
    // A hard outline is soft in one pixel across: a tenth of what is near. From a third on it is hair.
    const hard = Math.max(0, Math.min(1, (90 - softness.data[i]) / 50))
    matte.data[i] = before + hard * (crisp - before) + 0.5
  }
  return matte
}

/** Tells mattes apart: two 32-bit sums over their words (after FNV-1a; common practice). */
function fingerprintOf(data: Uint8Array): string {
  const words = data.byteOffset % 4 === 0 ? new Uint32Array(data.buffer, data.byteOffset, data.length >> 2) : new Uint32Array(data.slice().buffer, 0, data.length >> 2)
  let a = 0x811c9dc5, b = 0
  for (let i = 0; i < words.length; i++) { a = Math.imul(a ^ words[i], 0x01000193); b = (Math.imul(b, 31) + words[i]) | 0 }
  for (let i = words.length * 4; i < data.length; i++) a = Math.imul(a ^ data[i], 0x01000193)
  return `${data.length} ${a >>> 0} ${b >>> 0}`
}
