/** A level of a matte solved in blocks, which threads may share. */
import { type Task } from '../parallel/crew'
import { type Box } from '../raster/content'
import { countSet } from '../raster/countSet'
import { cropPicture, cropRows } from '../raster/crop'
import { type Picture, type Size } from '../raster/picture'
import { solveClosedForm } from './closedForm'
import { crisper } from './crisper'
import { expect, hintsFor, type Learnt } from './learning'
import { carrier, type Level } from './level'

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
  begin: (level) => solveBlock(level),
}

export function solveBlock({
  n,
  coarser,
  whole,
  finest,
  learnt,
  hold,
  margin,
  rounds,
  expected,
}: LevelToSolve): (block: Box, report?: (share: number) => void) => void {
  const size = sizeOf(whole?.picture ?? finest.part),
    carry = coarser && carrier(coarser)
  return (block, report = () => {}) => {
    const seen = around(block, margin, size)!
    const level = whole
      ? {
          picture: cropPicture(whole.picture, seen),
          unknown: cropRows(whole.unknown, size.width, seen, new Uint8Array(seen.width * seen.height)),
          alpha: cropRows(whole.alpha, size.width, seen, new Float32Array(seen.width * seen.height)),
        }
      : levelOf(finest, seen)
    carry?.(level, seen.x, seen.y)
    const hints = hintsFor(level, seen, n, learnt, hold)
    if (expected)
      expect(hints, cropRows(expected, size.width, seen, new Float32Array(seen.width * seen.height)), level.unknown)
    solveClosedForm(level, hints, rounds, report)
    if (n === 0) crisper(level, hints.precision)
    for (let y = block.y; y < block.y + block.height; y++)
      for (
        let x = block.x, i = y * size.width + x, j = (y - seen.y) * seen.width + x - seen.x;
        x < block.x + block.width;
        x++, i++, j++
      ) {
        if (!level.unknown[j]) continue
        if (whole) whole.alpha[i] = level.alpha[j]
        else finest.bytes[i] = level.alpha[j] * 255 + 0.5
      }
  }
}

/** How many pixels of a box are unknown. @param stride px from row to row */
function unknownIn(unknown: Uint8Array, stride: number, { x, y, width, height }: Box): number {
  let count = 0
  for (let row = y; row < y + height; row++)
    count += countSet(unknown.subarray(row * stride + x, row * stride + x + width))
  return count
}

/** Whether anything of a box is unknown. @param stride px from row to row */
export function hasUnknown(unknown: Uint8Array, stride: number, { x, y, width, height }: Box): boolean {
  for (let row = y; row < y + height; row++)
    if (unknown.subarray(row * stride + x, row * stride + x + width).includes(1)) return true
  return false
}

/** A box and what lies `by` px around it. */
export function around(box: Box | null, by: number, { width, height }: Size): Box | null {
  if (!box) return null
  const x = Math.max(0, box.x - by),
    y = Math.max(0, box.y - by)
  return {
    x,
    y,
    width: Math.min(width, box.x + box.width + by) - x,
    height: Math.min(height, box.y + box.height + by) - y,
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
    return { blocks: hasUnknown(unknown, size.width, whole) ? [whole] : [], margin: 0 }
  }
  const blocks = evenBlocks(size)
    .map((block) => ({ block, count: unknownIn(unknown, size.width, block) }))
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count)
  return { blocks: blocks.map(({ block }) => block), margin: MARGIN }
}

/** Of even sizes, so that threads have even shares. */
function evenBlocks({ width, height }: Size): Box[] {
  const across = evenParts(width),
    down = evenParts(height)
  return down.flatMap(([y, height]) => across.map(([x, width]) => ({ x, y, width, height })))
}
function evenParts(length: number): [from: number, length: number][] {
  const count = Math.ceil(length / BLOCK),
    at = (k: number) => Math.round((k * length) / count)
  return Array.from({ length: count }, (_, k) => [at(k), at(k + 1) - at(k)])
}

/** A part of the first level; what is unknown there and not carried from anywhere begins in the middle. */
export function levelOf({ part, open, bytes }: Finest, box: Box): Level {
  const unknown = cropRows(open, part.width, box, new Uint8Array(box.width * box.height)),
    coverage = cropRows(bytes, part.width, box, new Uint8Array(unknown.length))
  const alpha = new Float32Array(unknown.length)
  for (let i = 0; i < alpha.length; i++) alpha[i] = unknown[i] ? 0.5 : coverage[i] / 255
  return { picture: cropPicture(part, box), unknown, alpha }
}

const sizeOf = ({ width, height }: Size): Size => ({ width, height })
