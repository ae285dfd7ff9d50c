/**
 * What is thinner than the band along its edge would be open from side to side, with nothing known of its own to be told from: its middle stays known.
 * The middle is where the distance to the other side has a ridge (Blum, "A transformation for extracting new descriptors of shape", 1967: the medial axis).
 */
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { distanceTo, withinReach } from '../raster/distance'
import { type Matte, type Size } from '../raster/picture'
import { MIDDLE } from './band'

/** What is known of the same side so near is enough to be told from, as a multiple of the band's reach. */
const ENOUGH = 2
/** A ridge: so much shallower, px for each px away, are both sides of it together; and so deep it is beside the deepest place near. */
const KINK = 0.5,
  DEEP = 0.5
/** Rows looked at in one go, at least; and as many as lie within reach above and below them. */
const ROWS = 256

interface Band extends Size {
  readonly coverage: Uint8Array
  readonly open: Uint8Array
  readonly reach: number
  /** 1 where the band is closed again. */
  readonly middles: Uint8Array
}
interface Rows {
  readonly from: number
  readonly to: number
  readonly inside: boolean
}

/** Closes, in place, the middles of thin things and of thin gaps; `open` is a band of so much `reach`, px, along the edge of the matte. */
export function keepMiddles(matte: Matte, open: Uint8Array, reach: number, crew: Crew = alone): void {
  const { width, height } = matte,
    rows = Math.max(ROWS, Math.ceil(8 * reach)),
    pieces: Rows[] = [],
    middles = new Uint8Array(crew.allocate(open.length))
  for (let from = 0; from < height; from += rows)
    for (const inside of [true, false]) pieces.push({ from, to: Math.min(height, from + rows), inside })
  const band: Band = {
    width,
    height,
    reach,
    middles,
    coverage: seenByAll(crew, matte.data),
    open: seenByAll(crew, open),
  }
  crew.share(findMiddles, band, pieces)
  for (let i = 0; i < open.length; i++) if (middles[i]) open[i] = 0
}

export const findMiddles: Task<Band, Rows> = {
  name: 'find middles',
  begin:
    ({ coverage, open, width, height, reach, middles }) =>
    ({ from, to, inside }) => {
      const side = Math.max(4, Math.ceil(reach)),
        spare = Math.ceil(ENOUGH * reach) + 2 * side + 2,
        top = Math.max(0, from - spare),
        strip: Size = { width, height: Math.min(height, to + spare) - top },
        start = top * width,
        known = new Uint8Array(width * strip.height),
        other = new Uint8Array(width * strip.height)
      for (let i = 0; i < other.length; i++)
        if (coverage[start + i] >= MIDDLE !== inside) other[i] = 1
        else if (!open[start + i]) known[i] = 1
      const near = withinReach(known, strip, ENOUGH * reach),
        lone: number[] = []
      for (let i = 0; i < other.length; i++) if (!other[i] && !known[i] && !near[i]) lone.push(i)
      if (!lone.length) return
      const depthAt = distanceTo(other, strip, reach + 2),
        depths = Float32Array.from(lone, depthAt),
        deepest = deepestNear(lone, depths, strip, side, top)
      lone.forEach((i, k) => {
        const x = i % width,
          y = Math.floor(i / width)
        if (depths[k] === Infinity) return
        if (y + top < from || y + top >= to || x === 0 || x === width - 1 || y === 0 || y === strip.height - 1) return
        if (depths[k] >= DEEP * deepest(x, y) && isRidge(depthAt, i, depths[k], width)) middles[start + i] = 1
      })
    },
}

/** Along one of the four axes both neighbours together are so much shallower. */
function isRidge(depthAt: (i: number) => number, i: number, depth: number, width: number): boolean {
  const kink = (step: number, away: number) => (2 * depth - depthAt(i - step) - depthAt(i + step)) / away
  return (
    kink(1, 1) >= KINK ||
    kink(width, 1) >= KINK ||
    kink(width + 1, Math.SQRT2) >= KINK ||
    kink(width - 1, Math.SQRT2) >= KINK
  )
}

/** The deepest of the places given in the squares of `side` px around a place and beside it; the squares stand where they do in the whole picture. */
function deepestNear(
  places: readonly number[],
  depths: Float32Array,
  { width, height }: Size,
  side: number,
  top: number,
): (x: number, y: number) => number {
  const across = Math.ceil(width / side) + 2,
    first = Math.floor(top / side),
    most = new Float32Array(across * (Math.floor((top + height - 1) / side) - first + 3)),
    squareOf = (x: number, y: number) => (Math.floor((y + top) / side) - first + 1) * across + Math.floor(x / side) + 1
  places.forEach((i, k) => {
    const square = squareOf(i % width, Math.floor(i / width))
    if (depths[k] > most[square] && depths[k] < Infinity) most[square] = depths[k]
  })
  return (x, y) => {
    const square = squareOf(x, y)
    let deepest = 0
    for (let row = square - across; row <= square + across; row += across)
      for (let k = row - 1; k <= row + 1; k++) if (most[k] > deepest) deepest = most[k]
    return deepest
  }
}
