/**
 * A brush on a matte: dabs along a line. Within a stroke coverage is the greatest of its dabs, so overlapping dabs do not pile up;
 * a stroke then goes over what was there, or is taken off it (so a stroke erased by itself leaves no rim).
 */
import { KERNEL_BASE, kernels } from '../kernels'
import { boundsOfPoints } from './bounds'
import { type Matte, type Size } from './picture'
import { Stamps, partInside } from './stamps'
import { LANES, STAMP_BYTES, lanes, sidesOf, type Box, type Stroke } from './stroke'

/** Up to this spacing a stroke is a line: dabs come so close that its side is straight to a quarter of a pixel. */
const LINE_SPACING = 0.25
/** A stroke is drawn in strips of about this many bytes, which stay in the processor's cache. */
const STRIP_BYTES = 1 << 20

/** Dabs lie on a grid of this many positions a pixel: on a large brush a shift below a pixel is not seen. */
const gridOf = (size: number): number => (size < 128 ? 4 : size < 512 ? 2 : 1)

/** Paints strokes in order onto the matte, in place. @param check is called now and then with the progress (0-1) */
export function paintStrokes(
  matte: Matte,
  strokes: readonly Stroke[],
  check: (progress: number) => void = () => {},
): void {
  strokes.forEach((stroke, n) => paintStroke(matte, stroke, (share) => check((n + share) / strokes.length)))
}

function paintStroke(matte: Matte, stroke: Stroke, check: (progress: number) => void): void {
  check(0)
  const box = boxOf(stroke, matte)
  if (!box) return
  const width = box.right - box.left,
    stride = lanes(width) + LANES // what a stamp writes beyond the last column lands in the margin
  const rows = Math.max(1, Math.floor(STRIP_BYTES / stride)),
    strips = Math.ceil((box.bottom - box.top) / rows)
  const dabsOf = dabsByStrip(stroke, box, rows, strips)
  const sheet = KERNEL_BASE,
    below = sheet + rows * stride,
    stampsAt = below + rows * stride
  const stamps = new Stamps(stroke, stampsAt)
  const { bytes, maxRows, layOver } = kernels(2 * rows * stride + STAMP_BYTES + lanes(width) * rows + LANES)
  for (let strip = 0; strip < strips; strip++) {
    const dabs = dabsOf[strip],
      top = box.top + strip * rows,
      count = Math.min(rows, box.bottom - top)
    if (!dabs.length) continue
    check(strip / strips)
    bytes.fill(0, sheet, sheet + count * stride)
    let laid = 0
    for (const { x, y, size } of dabs) {
      if ((laid++ & 63) === 63) check((strip + laid / dabs.length) / strips)
      const grid = gridOf(size),
        column = Math.floor(x),
        row = Math.floor(y)
      const { half, side } = sidesOf(size)
      const left = column - half - box.left,
        upper = row - half - top
      const x0 = Math.max(0, left),
        x1 = Math.min(width, left + side),
        y0 = Math.max(0, upper),
        y1 = Math.min(count, upper + side)
      if (x1 <= x0 || y1 <= y0) continue
      const stamp = stamps.rows(
        bytes,
        size,
        Math.floor((x - column) * grid),
        Math.floor((y - row) * grid),
        grid,
        x0 - left,
        x1 - left,
        y0 - upper,
        y1 - upper,
      )
      maxRows(sheet + y0 * stride + x0, stride, stamp.at, stamp.stride, lanes(x1 - x0), y1 - y0)
    }
    for (let y = 0; y < count; y++) {
      const from = (top + y) * matte.width + box.left
      bytes.set(matte.data.subarray(from, from + width), below + y * stride)
    }
    layOver(below, sheet, count * stride, Math.round(stroke.strength * 255), stroke.erase)
    for (let y = 0; y < count; y++)
      matte.data.set(bytes.subarray(below + y * stride, below + y * stride + width), (top + y) * matte.width + box.left)
  }
}

/** Whole pixels that a stroke can touch on the canvas, or null. */
function boxOf({ points, size }: Stroke, { width, height }: Size): Box | null {
  if (!points.length || size <= 0) return null
  const [left, top, right, bottom] = boundsOfPoints(points)
  const reach = size / 2 + 2
  const box = {
    left: Math.max(0, Math.floor(left - reach)),
    top: Math.max(0, Math.floor(top - reach)),
    right: Math.min(width, Math.ceil(right + reach)),
    bottom: Math.min(height, Math.ceil(bottom + reach)),
  }
  return box.right > box.left && box.bottom > box.top ? box : null
}

interface Dab {
  readonly x: number
  readonly y: number
  /** Diameter, px, in quarters. */ readonly size: number
}

/** The dabs that touch each strip of the box. */
function dabsByStrip(stroke: Stroke, box: Box, rows: number, strips: number): Dab[][] {
  const out: Dab[][] = Array.from({ length: strips }, () => [])
  forEachDab(
    stroke,
    (x, y, exact) => {
      const size = Math.max(1, Math.round(exact * 4)) / 4 // sizes in quarters of a pixel share a stamp
      const { half } = sidesOf(size),
        dab = { x, y, size }
      const first = Math.max(0, Math.floor((Math.floor(y) - half - box.top) / rows)),
        last = Math.min(strips - 1, Math.floor((Math.floor(y) + half - box.top) / rows))
      for (let strip = first; strip <= last; strip++) out[strip].push(dab)
    },
    box,
  )
  return out
}

/** Where the dabs of a stroke lie and how large they are. */
/** The dabs of a stroke, in order: their middles and diameters, px. */
export function forEachDab(
  { points, size, spacing, tip }: Stroke,
  dab: (x: number, y: number, size: number) => void,
  box?: Box,
): void {
  if (!points.length || size <= 0) return
  const sizeAt = (i: number) => size * (points[i][2] ?? 1)
  dab(points[0][0], points[0][1], sizeAt(0))
  let left = 0 // how far the last dab lies back
  for (let i = 1; i < points.length; i++) {
    const [ax, ay] = points[i - 1],
      [bx, by] = points[i]
    const length = Math.hypot(bx - ax, by - ay)
    if (length === 0) continue
    const from = sizeAt(i - 1),
      to = sizeAt(i)
    const seen = box && length > LONG ? partInside(box, size / 2 + 2, ax, ay, bx, by) : WHOLE
    if (!seen) {
      left = 0
      continue
    }
    if (seen !== WHOLE) left = 0
    for (let at = seen[0] * length; ;) {
      const here = from + ((to - from) * at) / length
      const step =
        spacing <= LINE_SPACING ? Math.min(spacing * here, tip === 'round' ? Math.sqrt(here) : 1) : spacing * here
      at += Math.max(0.5, step) - left
      if (at > length * seen[1]) {
        if (seen !== WHOLE) break
        left = Math.max(0.5, step) - (at - length)
        break
      }
      left = 0
      const t = at / length
      dab(ax + (bx - ax) * t, ay + (by - ay) * t, from + (to - from) * t)
    }
  }
}

/** Longer lines between two points are walked only where they are seen, px. */
const LONG = 20_000
const WHOLE: readonly [number, number] = [0, 1]
