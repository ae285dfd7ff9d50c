/**
 * Where the edge is doubtful: soft where the picture's edge is hard, colours of the old backdrop within it, stair-steps. Told from
 * profiles across the boundary; what counts as doubtful is ours.
 */
import { type Matte, type Picture } from '../raster/picture'
import { type Ribbon } from './ribbon'

export const DOUBTS = ['soft', 'backdrop', 'stairs'] as const
export type Doubt = (typeof DOUBTS)[number]
/** A stretch of the ribbon, px along. */
export interface DoubtfulSpot {
  readonly from: number
  readonly to: number
  readonly why: Doubt
}

/** Profiles reach so far on either side, px. */
const REACH = 14
/** Coverage between these is soft; a hard edge is soft over this many px at the most. */
const LOW = 26,
  HIGH = 229,
  HARD = 4
/** The picture's own edge is hard where it does most (as a share) of its change within so many px, and changes by at least so much (sum of three channels). */
const SUDDEN = 0.7,
  SUDDEN_PX = 4,
  CONTRAST = 90
/** All changes along the profile together are at most so much of the one between its ends. */
const ONE_JUMP = 1.7
/** Inside the edge colours are looked at up to so deep, px; nearer to the backdrop than this, of the way between the two sides, they are the backdrop's. */
const SKIN = 3,
  BACKDROP = 0.6
/** An edge that is neither upright nor level has stairs when it is soft nowhere; the normal's smaller part. */
const SLANTED = 0.22
/** Of so many px along, more than this share must be doubtful; spots that are nearer to each other are one; shorter ones are none. */
const WINDOW = 15,
  SHARE = 0.5,
  APART = 12,
  SHORTEST = 8

/** The doubtful stretches in the order of the ribbon. `picture` as it will be shown: with fringe colours taken out where they are. */
export function doubtfulSpots(ribbon: Ribbon, picture: Picture, matte: Matte): DoubtfulSpot[] {
  const kinds = new Uint8Array(ribbon.length),
    coverage = new Float32Array(2 * REACH + 1),
    colour = new Float32Array(3 * (2 * REACH + 1))
  for (let k = 0; k < ribbon.length; k++) kinds[k] = doubtAt(ribbon, k, picture, matte, coverage, colour)
  const spots: DoubtfulSpot[] = []
  for (let contour = 0; contour + 1 < ribbon.starts.length; contour++) {
    const from = ribbon.starts[contour],
      to = ribbon.starts[contour + 1]
    for (const [n, why] of DOUBTS.entries())
      spots.push(...stretches(kinds, from, to, n + 1).map((s) => ({ ...s, why })))
  }
  return spots.sort((a, b) => a.from - b.from)
}

/** 0: none; else one more than its place in DOUBTS. */
function doubtAt(
  { places }: Ribbon,
  k: number,
  { width, height, data }: Picture,
  matte: Matte,
  coverage: Float32Array,
  colour: Float32Array,
): number {
  const x0 = places[4 * k],
    y0 = places[4 * k + 1],
    nx = places[4 * k + 2],
    ny = places[4 * k + 3]
  for (let n = -REACH; n <= REACH; n++) {
    const x = Math.floor(x0 + nx * n),
      y = Math.floor(y0 + ny * n)
    if (x < 0 || y < 0 || x >= width || y >= height) return 0 // the picture's own border is no edge to judge
    const i = y * width + x,
      o = n + REACH
    coverage[o] = matte.data[i]
    for (let c = 0; c < 3; c++) colour[3 * o + c] = data[4 * i + c]
  }
  let soft = 0,
    edge = REACH
  for (let o = 0; o < coverage.length; o++) {
    if (coverage[o] > LOW && coverage[o] < HIGH) soft++
    if (coverage[o] >= 128) edge = o
  }
  const apart = (a: number, b: number): number =>
    Math.abs(colour[3 * a] - colour[3 * b]) +
    Math.abs(colour[3 * a + 1] - colour[3 * b + 1]) +
    Math.abs(colour[3 * a + 2] - colour[3 * b + 2])
  const inner = 1,
    outer = coverage.length - 2,
    contrast = apart(inner, outer)
  if (soft > HARD) {
    let most = 0,
      ways = 0
    for (let o = 0; o + SUDDEN_PX < coverage.length; o++) most = Math.max(most, apart(o, o + SUDDEN_PX))
    for (let o = inner; o < outer; o++) ways += apart(o, o + 1)
    // One jump between two calm sides: hair jumps to and fro.
    if (contrast > CONTRAST && most > SUDDEN * contrast && ways < ONE_JUMP * contrast && soft > HARD + SUDDEN_PX)
      return 1
  }
  if (contrast > CONTRAST && coverage[inner] > HIGH && coverage[outer] < LOW) {
    // How far the colours just inside lie on the way from the subject's to the backdrop's.
    let way = 0,
      n = 0
    for (let o = Math.max(inner + 1, edge - SKIN + 1); o <= edge; o++) {
      let along = 0,
        all = 0
      for (let c = 0; c < 3; c++) {
        const d = colour[3 * outer + c] - colour[3 * inner + c]
        along += (colour[3 * o + c] - colour[3 * inner + c]) * d
        all += d * d
      }
      way += along / all
      n++
    }
    if (n > 0 && way / n > BACKDROP) return 2
  }
  if (soft === 0 && Math.min(Math.abs(nx), Math.abs(ny)) > SLANTED) return 3
  return 0
}

/** Where most of what is near is of a kind. */
function stretches(kinds: Uint8Array, from: number, to: number, kind: number): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [],
    half = WINDOW >> 1
  let count = 0
  for (let k = from; k < Math.min(to, from + half); k++) if (kinds[k] === kind) count++
  for (let k = from; k < to; k++) {
    if (k + half < to && kinds[k + half] === kind) count++
    if (k - half - 1 >= from && kinds[k - half - 1] === kind) count--
    if (count <= SHARE * WINDOW) continue
    const last = out.at(-1)
    if (last && k - last.to <= APART) last.to = k + 1
    else out.push({ from: k, to: k + 1 })
  }
  return out.filter((s) => s.to - s.from >= SHORTEST)
}
