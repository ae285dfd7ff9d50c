/**
 * What changed on the level that is thought on, carried to full size: near it everything is decided anew, everywhere else it stays as it was, to the pixel.
 */
import { type Box } from '../raster/content'
import { cropRows, partOf } from '../raster/crop'
import { type Size } from '../raster/picture'
import { UNDECIDED } from './gridCut'
import { refine, type SmallAnswer } from './objectCut'
import { type SegmentView, wholeOf } from './view'

export interface Change {
  readonly small: SmallAnswer
  /** 1 where the small level is decided anew. */ readonly near: Uint8Array
  /** What there is at full size. */ readonly there: Uint8Array
  /** The only side a pixel may change to; absent: either. */ readonly may?: number
  /** UNDECIDED, INSIDE or OUTSIDE: what is given at a level of a part of the view. */
  readonly givenIn: (part: SegmentView, level: number) => Uint8Array
}

/** A part as large as this is not worth a copy of its pixels. */
const COPIED = 0.5

/** @returns INSIDE and OUTSIDE at full size */
export function carryChange(
  { small, near, there, may, givenIn }: Change,
  view: SegmentView,
  check: (progress: number) => void,
): Uint8Array {
  const last = view.levels.length - 1,
    bounds = boundsOf(near, view.levels[last])
  if (!bounds) return there
  const box = bounds.width * bounds.height > COPIED * near.length ? wholeOf(view.levels[last]) : bounds
  const part = partOfView(view, box),
    whole = boxAt(view, box, 0),
    [{ width }] = view.levels,
    before = cropRows(there, width, whole, new Uint8Array(whole.width * whole.height)),
    inPart = (plane: Uint8Array) =>
      cropRows(plane, view.levels[last].width, box, new Uint8Array(box.width * box.height)),
    open = inPart(near)
  const after = refine(
    inPart(small.state),
    {
      ...small,
      sure: small.sure && inPart(small.sure),
      levels: part.levels,
      givenAt: (level) => giveBefore(givenIn(part, level), level, before, open, part),
    },
    check,
  )
  const given = may === undefined ? null : givenIn(part, 0),
    out = there.slice()
  for (let y = 0, i = 0; y < whole.height; y++)
    for (let x = 0, to = (whole.y + y) * width + whole.x; x < whole.width; x++, i++, to++)
      if (!given || given[i] !== UNDECIDED || after[i] === may) out[to] = after[i]
  return out
}

/** Where a plane is not 0, and a pixel more; null where it is nowhere. */
function boundsOf(plane: Uint8Array, { width, height }: Size): Box | null {
  let left = width,
    right = -1,
    top = height,
    bottom = -1
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (plane[i]) {
        left = Math.min(left, x)
        right = Math.max(right, x)
        top = Math.min(top, y)
        bottom = y
      }
  if (right < 0) return null
  const x = Math.max(0, left - 1),
    y = Math.max(0, top - 1)
  return { x, y, width: Math.min(width, right + 2) - x, height: Math.min(height, bottom + 2) - y }
}

/** A box of the small level on another. */
function boxAt({ levels }: SegmentView, box: Box, level: number): Box {
  const shift = levels.length - 1 - level,
    { width, height } = levels[level],
    [x, y] = [box.x << shift, box.y << shift]
  return {
    x,
    y,
    width: Math.min(width, (box.x + box.width) << shift) - x,
    height: Math.min(height, (box.y + box.height) << shift) - y,
  }
}

/** What is looked at of a box of the small level; its colours are those of the whole. */
function partOfView(view: SegmentView, box: Box): SegmentView {
  const { frame, levels, lab } = view,
    full = boxAt(view, box, 0)
  return {
    frame: { ...full, x: frame.x + full.x, y: frame.y + full.y },
    levels: levels.map((level, n) => partOf(level, boxAt(view, box, n))),
    lab,
  }
}

/** Gives a level, in place, what was there where nothing is decided anew. */
function giveBefore(
  given: Uint8Array,
  level: number,
  before: Uint8Array,
  open: Uint8Array,
  { levels }: SegmentView,
): Uint8Array {
  const [full, small, { width, height }] = [levels[0], levels.at(-1)!, levels[level]],
    shift = levels.length - 1 - level
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> shift) * small.width,
      from = Math.min(full.height - 1, y << level) * full.width
    for (let x = 0; x < width; x++, i++)
      if (given[i] === UNDECIDED && !open[row + (x >> shift)])
        given[i] = before[from + Math.min(full.width - 1, x << level)]
  }
  return given
}
