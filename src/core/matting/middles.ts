/**
 * What is thinner than the band along its edge would be open from side to side, with nothing known of its own to be told from: its middle stays known.
 * The middle is where the distance to the other side has a ridge (Blum, "A transformation for extracting new descriptors of shape", 1967: the medial axis).
 */
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { type Box } from '../raster/content'
import { cropRows } from '../raster/crop'
import { distanceTo, withinReach } from '../raster/distance'
import { mapInto } from '../raster/mapInto'
import { type Matte, type Size } from '../raster/picture'
import { Scratch } from '../raster/scratch'
import { wordsOf } from '../raster/wordsOf'
import { MIDDLE, SIDES } from './band'

/** What is known of the same side so near is enough to be told from, as a multiple of the band's reach. */
const ENOUGH = 2
/** A ridge: so much shallower, px for each px away, are both sides of it together; and so deep it is beside the deepest place near. */
const KINK = 0.5,
  DEEP = 0.5
/** Side of the squares looked at one by one, px, at least; and as much as lies within reach around them. */
const SQUARE = 256

interface Band extends Size {
  readonly coverage: Uint8Array
  readonly open: Uint8Array
  readonly reach: number
  /** 1 where the band is closed again. */
  readonly middles: Uint8Array
}

/** Closes, in place, the middles of thin things and of thin gaps; `open` is a band of so much `reach`, px, along the edge of the matte. */
export function keepMiddles(
  matte: Matte,
  open: Uint8Array,
  reach: number,
  crew: Crew = alone,
  check?: (progress: number) => void,
): void {
  const { width, height } = matte,
    middles = new Uint8Array(crew.allocate(open.length))
  const band: Band = {
    width,
    height,
    reach,
    middles,
    coverage: seenByAll(crew, matte.data),
    open: seenByAll(crew, open),
  }
  crew.share(findMiddles, band, squaresWith(open, matte, Math.max(SQUARE, Math.ceil(8 * reach))), check)
  const words = wordsOf(middles)
  for (let k = 0; k < words.length; k++)
    if (words[k]) for (let i = 4 * k; i < 4 * k + 4; i++) if (middles[i]) open[i] = 0
  for (let i = 4 * words.length; i < open.length; i++) if (middles[i]) open[i] = 0
}

/** The squares that have something open in them. */
function squaresWith(open: Uint8Array, { width, height }: Size, side: number): Box[] {
  const across = Math.ceil(width / side),
    found = new Uint8Array(across * Math.ceil(height / side))
  for (let i = open.indexOf(1); i >= 0;) {
    const x = i % width,
      square = Math.floor(x / side)
    found[Math.floor(Math.floor(i / width) / side) * across + square] = 1
    i = open.indexOf(1, i - x + Math.min(width, (square + 1) * side)) // beyond the square's row
  }
  const squares: Box[] = []
  found.forEach((is, k) => {
    const x = (k % across) * side,
      y = Math.floor(k / across) * side
    if (is) squares.push({ x, y, width: Math.min(side, width - x), height: Math.min(side, height - y) })
  })
  return squares
}

export const findMiddles: Task<Band, Box> = {
  name: 'find middles',
  begin: (band) => {
    const { reach } = band,
      side = Math.max(4, Math.ceil(reach)),
      spare = Math.ceil(ENOUGH * reach) + 2 * side + 2,
      scratch = new Scratch()
    return (square) => {
      const left = Math.max(0, square.x - spare),
        top = Math.max(0, square.y - spare),
        part: Box = {
          x: left,
          y: top,
          width: Math.min(band.width, square.x + square.width + spare) - left,
          height: Math.min(band.height, square.y + square.height + spare) - top,
        }
      for (const inside of [true, false]) closeMiddles(band, square, part, side, inside, scratch.begin())
    }
  },
}

/** In a square, of one side; `part` is the square with what lies within reach of it. */
function closeMiddles(
  { coverage, open, middles, width: whole, reach }: Band,
  square: Box,
  part: Box,
  side: number,
  inside: boolean,
  room: Scratch,
): void {
  if (!isOpenIn(square, coverage, open, whole, inside)) return
  const { width, height } = part,
    other = cropRows(coverage, whole, part, room.bytes(width * height)),
    known = cropRows(open, whole, part, room.bytes(width * height))
  tellSides(other, known, inside)
  const near = withinReach(known, part, ENOUGH * reach, room.bytes(other.length)),
    lones = room.words(other.length)
  let count = 0
  for (let i = 0; i < other.length; i++) if (!other[i] && !known[i] && !near[i]) lones[count++] = i
  if (!count) return
  const lone = lones.subarray(0, count),
    depthAt = distanceTo(other, part, reach + 2, room.shorts(other.length)),
    depths = mapInto(room.floats(count), lone, depthAt),
    deepest = deepestOf(lone, depths, part, side)
  for (let k = 0; k < count; k++) {
    if (depths[k] === Infinity) continue
    const i = lone[k],
      x = i % width,
      y = Math.floor(i / width)
    if (
      x + part.x < square.x ||
      y + part.y < square.y ||
      x + part.x >= square.x + square.width ||
      y + part.y >= square.y + square.height
    )
      continue
    if (x === 0 || x === width - 1 || y === 0 || y === height - 1) continue
    if (depths[k] >= DEEP * deepestAt(deepest, x, y) && isRidge(depthAt, i, depths[k], width))
      middles[(y + part.y) * whole + x + part.x] = 1
  }
}

/** Of coverage and of what is open becomes, in place, what is of the other side and what is known of this one: 1 each. Four px at a time: both begin where a word does. */
function tellSides(coverage: Uint8Array, open: Uint8Array, inside: boolean): void {
  const sides = wordsOf(coverage),
    closed = wordsOf(open),
    own = inside ? SIDES : 0
  for (let k = 0; k < sides.length; k++) {
    sides[k] = ((sides[k] ^ own) & SIDES) >>> 7
    closed[k] = ~(closed[k] | sides[k]) & ONES
  }
  for (let i = 4 * sides.length; i < coverage.length; i++) {
    coverage[i] = coverage[i] >= MIDDLE !== inside ? 1 : 0
    open[i] = open[i] | coverage[i] ? 0 : 1
  }
}
const ONES = 0x01010101

/** Whether something of this side is open in the square. */
function isOpenIn(square: Box, coverage: Uint8Array, open: Uint8Array, whole: number, inside: boolean): boolean {
  for (let y = square.y; y < square.y + square.height; y++)
    for (let j = y * whole + square.x, end = j + square.width; j < end; j++)
      if (open[j] && coverage[j] >= MIDDLE === inside) return true
  return false
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

/** The deepest places in squares of `side` px of a part that begins at (left, top); the squares stand where they do in the whole picture, with a rim of empty ones. */
interface Deepest {
  readonly left: number
  readonly top: number
  readonly side: number
  readonly first: number
  readonly row: number
  readonly across: number
  readonly most: Float32Array
}

function deepestOf(
  places: Int32Array,
  depths: Float32Array,
  { x: left, y: top, width, height }: Box,
  side: number,
): Deepest {
  const first = Math.floor(left / side) - 1,
    row = Math.floor(top / side) - 1,
    across = Math.floor((left + width - 1) / side) - first + 2,
    most = new Float32Array(across * (Math.floor((top + height - 1) / side) - row + 2)),
    deepest: Deepest = { left, top, side, first, row, across, most }
  for (let k = 0; k < places.length; k++) {
    const square = squareAt(deepest, places[k] % width, Math.floor(places[k] / width))
    if (depths[k] > most[square] && depths[k] < Infinity) most[square] = depths[k]
  }
  return deepest
}
const squareAt = ({ left, top, side, first, row, across }: Deepest, x: number, y: number): number =>
  (Math.floor((y + top) / side) - row) * across + Math.floor((x + left) / side) - first

/** Of the squares around a place and beside it. */
function deepestAt(squares: Deepest, x: number, y: number): number {
  const { across, most } = squares,
    square = squareAt(squares, x, y)
  let deepest = 0
  for (let from = square - across; from <= square + across; from += across)
    for (let k = from - 1; k <= from + 1; k++) if (most[k] > deepest) deepest = most[k]
  return deepest
}
