/**
 * A brush on a matte: dabs along a line. Within a stroke coverage is the greatest of its dabs, so overlapping dabs do not pile up;
 * a stroke then goes over what was there, or is taken off it (so a stroke erased by itself leaves no rim).
 */
import { type Matte, type Size } from './picture'

export interface Stroke {
  /** px; an optional third number is the pressure, 0-1, which scales the size. */
  readonly points: readonly (readonly [x: number, y: number] | readonly [x: number, y: number, pressure: number])[]
  /** Diameter, px. */
  readonly size: number
  /** 1: a clean anti-aliased edge; 0: fading over the whole radius. */
  readonly hardness: number
  /** 0-1. */
  readonly strength: number
  /** Distance between dabs as a share of the size. */
  readonly spacing: number
  readonly tip: 'round' | 'square'
  readonly erase: boolean
}

/** Up to this spacing a stroke is a line: dabs come so close that its side is straight to a quarter of a pixel. */
const LINE_SPACING = 0.25
/** Dabs are placed on a grid of this many positions a pixel. */
const SUBPIXELS = 4

/** A dab's coverage, and for each row where it begins and ends and where it is full. */
interface Stamp { readonly side: number; readonly half: number; readonly data: Uint8Array; readonly spans: Int32Array }

/** Paints strokes in order onto the matte, in place. @param check is called now and then with the progress (0-1) */
export function paintStrokes(matte: Matte, strokes: readonly Stroke[], check: (progress: number) => void = () => {}): void {
  strokes.forEach((stroke, n) => {
    check(n / strokes.length)
    const box = boxOf(stroke, matte)
    if (!box) return
    // The dabs on a sheet of their own, no larger than the stroke.
    const sheet = { width: box.right - box.left, height: box.bottom - box.top, data: new Uint8Array((box.right - box.left) * (box.bottom - box.top)) }
    paintDabs(sheet, stroke, box.left, box.top)
    const strength = Math.round(stroke.strength * 255)
    for (let y = 0; y < sheet.height; y++) {
      for (let k = y * sheet.width, end = k + sheet.width, i = (y + box.top) * matte.width + box.left; k < end; k++, i++) {
        if (sheet.data[k] === 0) continue
        const share = ((sheet.data[k] * strength + 127) / 255) | 0, below = matte.data[i]
        matte.data[i] = stroke.erase ? Math.max(0, below - share) : 255 - ((((255 - below) * (255 - share) + 127) / 255) | 0)
      }
    }
  })
}

interface Box { left: number; top: number; right: number; bottom: number }

/** Whole pixels that a stroke can touch on the canvas, or null. */
function boxOf({ points, size }: Stroke, { width, height }: Size): Box | null {
  if (!points.length || size <= 0) return null
  let left = Infinity, top = Infinity, right = -Infinity, bottom = -Infinity
  for (const [x, y] of points) { left = Math.min(left, x); top = Math.min(top, y); right = Math.max(right, x); bottom = Math.max(bottom, y) }
  const reach = size / 2 + 2
  const box = { left: Math.max(0, Math.floor(left - reach)), top: Math.max(0, Math.floor(top - reach)), right: Math.min(width, Math.ceil(right + reach)), bottom: Math.min(height, Math.ceil(bottom + reach)) }
  return box.right > box.left && box.bottom > box.top ? box : null
}

/** Draws a stroke's dabs by maximum. @param left @param top where the target's first pixel lies on the canvas */
export function paintDabs(target: Matte, stroke: Stroke, left = 0, top = 0): void {
  const stamps = new Map<number, Stamp>(), profiles = new Map<number, Uint8Array>()
  forEachDab(stroke, (x, y, size) => {
    const shiftX = Math.floor((x - Math.floor(x)) * SUBPIXELS), shiftY = Math.floor((y - Math.floor(y)) * SUBPIXELS)
    const quarter = Math.max(1, Math.round(size * 4)) // sizes in quarters of a pixel share a stamp
    const key = (quarter * SUBPIXELS + shiftX) * SUBPIXELS + shiftY
    let stamp = stamps.get(key)
    if (!stamp) {
      let profile = profiles.get(quarter)
      if (!profile) { profile = profileOf(quarter / 8, stroke.hardness); profiles.set(quarter, profile) }
      stamp = makeStamp(quarter / 4, stroke.tip, profile, (shiftX + 0.5) / SUBPIXELS, (shiftY + 0.5) / SUBPIXELS)
      stamps.set(key, stamp)
    }
    drawStamp(target, stamp, Math.floor(x) - left - stamp.half, Math.floor(y) - top - stamp.half)
  })
}

/** Where the dabs of a stroke lie and how large they are. */
function forEachDab({ points, size, spacing, tip }: Stroke, dab: (x: number, y: number, size: number) => void): void {
  if (!points.length || size <= 0) return
  const sizeAt = (i: number) => size * (points[i][2] ?? 1)
  dab(points[0][0], points[0][1], sizeAt(0))
  let left = 0 // how far the last dab lies back
  for (let i = 1; i < points.length; i++) {
    const [ax, ay] = points[i - 1], [bx, by] = points[i]
    const length = Math.hypot(bx - ax, by - ay)
    if (length === 0) continue
    const from = sizeAt(i - 1), to = sizeAt(i)
    for (let at = 0; ;) {
      const here = from + ((to - from) * at) / length
      const step = spacing <= LINE_SPACING ? Math.min(spacing * here, tip === 'round' ? Math.sqrt(here) : 1) : spacing * here
      at += Math.max(0.5, step) - left
      if (at > length) { left = Math.max(0.5, step) - (at - length); break }
      left = 0
      const t = at / length
      dab(ax + (bx - ax) * t, ay + (by - ay) * t, from + (to - from) * t)
    }
  }
}

/** Coverage by the square of the distance, from the centre to a pixel beyond the radius: full in the core, then falling, never steeper than one pixel. */
function profileOf(radius: number, hardness: number): Uint8Array {
  const steps = Math.min(16_384, Math.max(1024, Math.ceil(8 * (radius + 1) * (radius + 1))))
  const core = radius * hardness, fade = Math.max(1, radius - core), start = Math.min(core, radius - 0.5)
  const out = new Uint8Array(steps + 1)
  for (let step = 0; step <= steps; step++) {
    const t = (Math.sqrt(step / steps) * (radius + 1) - start) / fade
    out[step] = t <= 0 ? 255 : t >= 1 ? 0 : 255.5 - 255 * (fade <= 1 ? t : t * t * (3 - 2 * t))
  }
  return out
}

/** Coverage of one dab whose centre lies (offsetX, offsetY) into the stamp's middle pixel. */
function makeStamp(size: number, tip: Stroke['tip'], profile: Uint8Array, offsetX: number, offsetY: number): Stamp {
  const radius = size / 2, half = Math.ceil(radius) + 1, side = 2 * half + 1
  const data = new Uint8Array(side * side)
  const last = profile.length - 1, perStep = last / ((radius + 1) * (radius + 1))
  for (let y = 0; y < side; y++) {
    const dy = Math.abs(y + 0.5 - half - offsetY)
    for (let x = 0; x < side; x++) {
      const dx = Math.abs(x + 0.5 - half - offsetX)
      const squared = tip === 'round' ? dx * dx + dy * dy : dx > dy ? dx * dx : dy * dy
      const step = (squared * perStep + 0.5) | 0
      data[y * side + x] = step < last ? profile[step] : 0
    }
  }
  return { side, half, data, spans: spansOf(data, side) }
}

/** Four columns for each row: the first covered, the first full, the one after the last full, the one after the last covered. */
function spansOf(data: Uint8Array, side: number): Int32Array {
  const spans = new Int32Array(side * 4)
  for (let y = 0; y < side; y++) {
    const row = data.subarray(y * side, (y + 1) * side)
    const first = row.findIndex((v) => v > 0), end = row.findLastIndex((v) => v > 0) + 1
    const full = row.indexOf(255), fullEnd = row.lastIndexOf(255) + 1
    spans.set(first < 0 ? [0, 0, 0, 0] : full < 0 ? [first, end, end, end] : [first, full, fullEnd, end], y * 4)
  }
  return spans
}

function drawStamp({ width, height, data }: Matte, stamp: Stamp, left: number, top: number): void {
  const x0 = Math.max(0, left), x1 = Math.min(width, left + stamp.side), y0 = Math.max(0, top), y1 = Math.min(height, top + stamp.side)
  if (x1 <= x0 || y1 <= y0) return
  const { spans } = stamp
  for (let y = y0; y < y1; y++) {
    const row = y - top, at = y * width, from = row * stamp.side - left
    const first = within(left + spans[row * 4], x0, x1), full = within(left + spans[row * 4 + 1], x0, x1), fullEnd = within(left + spans[row * 4 + 2], x0, x1), end = within(left + spans[row * 4 + 3], x0, x1)
    maxRow(data, at + first, stamp.data, from + first, full - first)
    if (fullEnd > full) data.fill(255, at + full, at + fullEnd)
    maxRow(data, at + fullEnd, stamp.data, from + fullEnd, end - fullEnd)
  }
}

const within = (v: number, least: number, most: number): number => (v < least ? least : v > most ? most : v)

function maxRow(to: Uint8Array, i: number, from: Uint8Array, j: number, count: number): void {
  for (const end = i + count; i < end; i++, j++) if (from[j] > to[i]) to[i] = from[j]
}
