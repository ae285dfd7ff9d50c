/** Dabs of a brush as small rasters of coverage, kept while a stroke is painted. */
import { LANES, STAMP_BYTES, lanes, sidesOf, type Box, type Stroke } from './stroke'

/** A stroke's stamps in the kernels' memory, made when first needed; when the room is used up they start anew. */
export class Stamps {
  private readonly places = new Map<number, number>()
  private readonly profiles = new Map<number, Uint8Array>()
  private end: number

  constructor(
    private readonly stroke: Stroke,
    private readonly from: number,
  ) {
    this.end = from
  }

  /** Where the given rows and columns of a dab's coverage lie, and how far its rows are apart. */
  rows(
    bytes: Uint8Array,
    size: number,
    shiftX: number,
    shiftY: number,
    grid: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
  ): { at: number; stride: number } {
    const { side } = sidesOf(size),
      stride = lanes(side) + LANES,
      whole = stride * side
    if (whole > STAMP_BYTES) {
      // in a place of its own behind the others, only what is asked for
      const at = this.from + STAMP_BYTES,
        narrow = lanes(x1 - x0)
      this.draw(bytes, at, narrow, size, shiftX / grid, shiftY / grid, grid, x0, x1, y0, y1)
      return { at, stride: narrow }
    }
    const key = (Math.round(size * 4) * 4 + shiftX) * 4 + shiftY
    let place = this.places.get(key)
    if (place === undefined) {
      if (this.end + whole > this.from + STAMP_BYTES) {
        this.places.clear()
        this.end = this.from
      }
      place = this.end
      this.end += whole
      this.places.set(key, place)
      this.draw(bytes, place, stride, size, shiftX / grid, shiftY / grid, grid, 0, side, 0, side)
    }
    return { at: place + y0 * stride + x0, stride }
  }

  /** Coverage of a dab whose centre lies half a grid step after (offsetX, offsetY) in the stamp's middle pixel. Columns beyond x1 are empty. */
  private draw(
    bytes: Uint8Array,
    at: number,
    stride: number,
    size: number,
    offsetX: number,
    offsetY: number,
    grid: number,
    x0: number,
    x1: number,
    y0: number,
    y1: number,
  ): void {
    let profile = this.profiles.get(size)
    if (!profile) {
      profile = profileOf(size / 2, this.stroke.hardness)
      this.profiles.set(size, profile)
    }
    const { half } = sidesOf(size),
      radius = size / 2,
      round = this.stroke.tip === 'round'
    const last = profile.length - 1,
      perStep = last / ((radius + 1) * (radius + 1)),
      middleX = half + offsetX + 0.5 / grid - 0.5,
      middleY = half + offsetY + 0.5 / grid - 0.5
    for (let y = y0; y < y1; y++, at += stride) {
      const dy = Math.abs(y - middleY)
      bytes.fill(0, at + x1 - x0, at + stride)
      for (let x = x0, i = at; x < x1; x++, i++) {
        const dx = Math.abs(x - middleX)
        const step = ((round ? dx * dx + dy * dy : dx > dy ? dx * dx : dy * dy) * perStep + 0.5) | 0
        bytes[i] = step < last ? profile[step] : 0
      }
    }
  }
}
/** The part of a line (0-1) that comes within `reach` of a box; null where none does. Source: Liang and Barsky, ACM Trans. Graphics 3 (1984). */
export function partInside(
  { left, top, right, bottom }: Box,
  reach: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): readonly [number, number] | null {
  let first = 0,
    last = 1
  for (const [at, way, least, most] of [
    [ax, bx - ax, left - reach, right + reach],
    [ay, by - ay, top - reach, bottom + reach],
  ]) {
    if (way === 0) {
      if (at < least || at > most) return null
      continue
    }
    const a = (least - at) / way,
      b = (most - at) / way
    first = Math.max(first, Math.min(a, b))
    last = Math.min(last, Math.max(a, b))
  }
  return first < last ? [first, last] : null
}

/** Coverage by the square of the distance, from the centre to a pixel beyond the radius: full in the core, then falling, never steeper than one pixel. */
function profileOf(radius: number, hardness: number): Uint8Array {
  const steps = Math.min(16_384, Math.max(1024, Math.ceil(8 * (radius + 1) * (radius + 1))))
  const core = radius * hardness,
    fade = Math.max(1, radius - core),
    start = Math.min(core, radius - 0.5)
  const out = new Uint8Array(steps + 1)
  for (let step = 0; step <= steps; step++) {
    const t = (Math.sqrt(step / steps) * (radius + 1) - start) / fade
    out[step] = t <= 0 ? 255 : t >= 1 ? 0 : 255.5 - 255 * (fade <= 1 ? t : t * t * (3 - 2 * t))
  }
  return out
}
