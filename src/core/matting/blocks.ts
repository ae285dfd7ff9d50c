/** A level of a matte solved in blocks, which threads may share. */
import { type Task } from '../parallel/crew'
import { anyIn, around } from '../raster/bounds'
import { type Box } from '../raster/content'
import { cropRows } from '../raster/crop'
import { type Picture, type Size } from '../raster/picture'
import { Scratch } from '../raster/scratch'
import { solveClosedForm } from './closedForm'
import { crisper, REACH } from './crisper'
import { expect, hintsFor, type Learnt } from './learning'
import { carry, type Level } from './level'

/** A level with more unknown pixels, or more pixels in all, is solved in blocks of so many px that see so far around themselves. */
const MOST_UNKNOWN = 30_000,
  MOST_PIXELS = 3_000_000,
  BLOCK = 384,
  MARGIN = 16

/** Full size: the picture around the unknown pixels, where it is unknown, and coverage 0-255. */
export interface Finest {
  readonly part: Picture
  readonly open: Uint8Array
  readonly bytes: Uint8Array
}

/** One level on its way. Blocks are independent of each other: what is unknown begins with what half the size says. */
export interface LevelToSolve {
  /** 0 is full size. */
  readonly n: number
  readonly coarser: Level | null
  /** Absent at full size, where coverage is in bytes. */
  readonly whole: Level | undefined
  readonly finest: Finest
  readonly learnt: Learnt
  readonly hold: Float32Array
  /** How far a block sees around itself, px. */
  readonly margin: number
  readonly rounds: number
  /** What the network expects of the level; null where it is not asked. */ readonly expected: Float32Array | null
}

export const solveBlocks: Task<LevelToSolve, Box> = {
  name: 'unknown coverage of blocks',
  begin: (level) => {
    const scratch = new Scratch()
    return (block) => solveBlock(level, block, scratch.begin())
  },
}

/** Memory on each thread: 38 bytes for each pixel that the largest block depends on, beside what the closed form takes. */
export function solveBlock(
  { n, coarser, whole, finest, learnt, hold, margin, rounds, expected }: LevelToSolve,
  block: Box,
  room: Scratch,
  report?: (share: number) => void,
): void {
  const size = sizeOf(whole?.picture ?? finest.part),
    seen = whatMatters(whole?.unknown ?? finest.open, size, around(block, margin, size)),
    level = whole ? cropLevel(whole, seen, room) : levelOf(finest, seen, room)
  if (coarser) room.during(() => carry(coarser, level, seen.x, seen.y, room))
  const hints = hintsFor(level, seen, n, learnt, hold, room)
  if (expected) expect(hints, cropRows(expected, size.width, seen, room.floats(level.alpha.length)), level.unknown)
  solveClosedForm(level, hints, rounds, report)
  if (n === 0) crisper(level, hints.precision, room)
  const { x: left, y: top, width, height } = inBoth(block, seen)
  for (let y = top; y < top + height; y++)
    for (
      let x = left, i = y * size.width + x, j = (y - seen.y) * seen.width + x - seen.x;
      x < left + width;
      x++, i++, j++
    ) {
      if (!level.unknown[j]) continue
      if (whole) whole.alpha[i] = level.alpha[j]
      else finest.bytes[i] = level.alpha[j] * 255 + 0.5
    }
}

/** The part of a box that what is unknown in it depends on: windows reach 2 px, crispness reaches farther. */
function whatMatters(unknown: Uint8Array, size: Size, box: Box): Box {
  let left = box.width,
    right = 0,
    top = box.height,
    bottom = 0
  for (let y = 0; y < box.height; y++) {
    const at = (box.y + y) * size.width + box.x,
      row = unknown.subarray(at, at + box.width),
      first = row.indexOf(1)
    if (first < 0) continue
    left = Math.min(left, first)
    right = Math.max(right, row.lastIndexOf(1) + 1)
    top = Math.min(top, y)
    bottom = y + 1
  }
  const open = { x: box.x + left, y: box.y + top, width: right - left, height: bottom - top }
  return inBoth(around(open, REACH + 2, size), box)
}

/** What lies in both. */
function inBoth(a: Box, b: Box): Box {
  const x = Math.max(a.x, b.x),
    y = Math.max(a.y, b.y)
  return {
    x,
    y,
    width: Math.min(a.x + a.width, b.x + b.width) - x,
    height: Math.min(a.y + a.height, b.y + b.height) - y,
  }
}

/** Those with something unknown, those with most of it first (threads are done at about the same time), and how far they see around themselves, px; one for all where there is little to do. */
export function blocksOf(
  size: Size,
  unknown: Uint8Array,
  count: number,
): { readonly blocks: readonly Box[]; readonly margin: number } {
  if (count <= MOST_UNKNOWN && (count === 0 || size.width * size.height <= MOST_PIXELS)) {
    const whole = { x: 0, y: 0, width: size.width, height: size.height }
    return { blocks: anyIn(unknown, size.width, whole) ? [whole] : [], margin: 0 }
  }
  const across = evenParts(size.width),
    down = evenParts(size.height),
    counts = unknownIn(unknown, size.width, across, down)
  const blocks = down
    .flatMap(([y, height], row) =>
      across.map(([x, width], column) => ({
        block: { x, y, width, height },
        count: counts[row * across.length + column],
      })),
    )
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count)
  return { blocks: blocks.map(({ block }) => block), margin: MARGIN }
}

/** How many pixels are unknown in each block, row by row. */
function unknownIn(unknown: Uint8Array, width: number, across: Parts, down: Parts): Int32Array {
  const counts = new Int32Array(across.length * down.length)
  down.forEach(([top, height], row) => {
    const last = (top + height) * width
    for (let i = unknown.indexOf(1, top * width), y = top, column = 0; i >= 0 && i < last; i = unknown.indexOf(1, i)) {
      if (i >= (y + 1) * width) {
        y = Math.floor(i / width)
        column = 0
      }
      while (i - y * width >= across[column][0] + across[column][1]) column++
      const end = y * width + across[column][0] + across[column][1],
        from = i
      while (i < end && unknown[i]) i++
      counts[row * across.length + column] += i - from
    }
  })
  return counts
}

type Parts = readonly (readonly [from: number, length: number])[]
/** Of even sizes, so that threads have even shares. */
function evenParts(length: number): Parts {
  const count = Math.ceil(length / BLOCK),
    at = (k: number) => Math.round((k * length) / count)
  return Array.from({ length: count }, (_, k) => [at(k), at(k + 1) - at(k)])
}

/** A part of the first level; what is unknown there and not carried from anywhere begins in the middle. */
export function levelOf({ part, open, bytes }: Finest, box: Box, room = new Scratch()): Level {
  const count = box.width * box.height,
    unknown = cropRows(open, part.width, box, room.bytes(count)),
    coverage = cropRows(bytes, part.width, box, room.bytes(count)),
    alpha = room.floats(count)
  for (let i = 0; i < count; i++) alpha[i] = unknown[i] ? 0.5 : coverage[i] / 255
  return { picture: cropped(part, box, room), unknown, alpha }
}
/** A part of another level. */
function cropLevel({ picture, unknown, alpha }: Level, box: Box, room: Scratch): Level {
  const count = box.width * box.height
  return {
    picture: cropped(picture, box, room),
    unknown: cropRows(unknown, picture.width, box, room.bytes(count)),
    alpha: cropRows(alpha, picture.width, box, room.floats(count)),
  }
}
const cropped = (picture: Picture, box: Box, room: Scratch): Picture => ({
  width: box.width,
  height: box.height,
  data: cropRows(picture.data, picture.width, box, room.clamped(4 * box.width * box.height), 4),
})

const sizeOf = ({ width, height }: Size): Size => ({ width, height })
