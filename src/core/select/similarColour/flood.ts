import { type Picture, type Size, words } from '../../raster/picture'
import { type Colour } from './distance'
import { IN, IN_EDGE, OUT_EDGE } from '../../raster/edgeMarks'
import { RUN, type RunExtremes } from './runExtremes'
import { type Bounds, boundsOf, isWithin } from './within'

/** A flood's answer: marks (IN, IN_EDGE; OUT_EDGE for the pixels just outside; 0 elsewhere) and the indices of both kinds of edge pixel. */
export interface Flooded {
  readonly marks: Uint8Array
  readonly edge: Int32Array
}

/**
 * Pixels whose channels all lie within ±tolerance of a colour, decided as the flood meets them.
 * @param marks where to write, all zero @param extremes of the picture's runs, where they are known: smooth runs are then taken whole
 */
export function floodColour(
  picture: Picture,
  colour: Colour,
  x: number,
  y: number,
  tolerance: number,
  marks: Uint8Array,
  extremes?: RunExtremes,
): Flooded {
  const bounds = boundsOf(
    colour.map((v) => Math.max(0, Math.ceil(v - tolerance))),
    colour.map((v) => Math.min(255, Math.floor(v + tolerance))),
  )
  return flood(words(picture), picture, x, y, bounds, marks, extremes)
}

/** Pixels whose distance is at most the tolerance. */
export function floodDistance(
  distance: Uint8Array,
  size: Size,
  x: number,
  y: number,
  tolerance: number,
  marks: Uint8Array,
): Flooded {
  return flood(
    Uint32Array.from(distance),
    size,
    x,
    y,
    boundsOf([0, 0, 0, 0], [Math.floor(tolerance), 255, 255, 255]),
    marks,
  )
}

/** Indices, growing as needed. */
class Indices {
  private list = new Int32Array(8192)
  private count = 0
  add(i: number): void {
    if (this.count === this.list.length) {
      const larger = new Int32Array(this.count * 2)
      larger.set(this.list)
      this.list = larger
    }
    this.list[this.count++] = i
  }
  done(): Int32Array {
    return this.list.slice(0, this.count)
  }
}

/**
 * Scanline flood: the pixels joined to (x, y) through left, right, upper and lower neighbours that fit. A pixel that does not fit is
 * met from a neighbour that does, so the edge comes with the flood.
 * Source: Heckbert, "A Seed Fill Algorithm", Graphics Gems (1990).
 * A row's pixels that fit and touch are taken all at once, so of each such stretch only the first pixel's mark need be looked at.
 */
function flood(
  pixels: Uint32Array,
  { width, height }: Size,
  x: number,
  y: number,
  bounds: Bounds,
  marks: Uint8Array,
  extremes?: RunExtremes,
): Flooded {
  const edge = new Indices()
  const { evenLow, evenHigh, oddLow, oddHigh } = bounds
  if (!isWithin(pixels[y * width + x], evenLow, evenHigh, oddLow, oddHigh)) return { marks, edge: edge.done() }

  // Spans still to look at: row, first and last column, and the way they were come from. Flat, to spare an object for each.
  let stack = new Int32Array(4096)
  let depth = 0
  const push = (row: number, from: number, to: number, direction: number): void => {
    if (row < 0 || row >= height || to < from) return
    if (depth + 4 > stack.length) {
      const larger = new Int32Array(stack.length * 2)
      larger.set(stack)
      stack = larger
    }
    stack[depth] = row
    stack[depth + 1] = from
    stack[depth + 2] = to
    stack[depth + 3] = direction
    depth += 4
  }
  push(y, x, x, 0)
  while (depth) {
    depth -= 4
    const row = stack[depth],
      from = stack[depth + 1],
      to = stack[depth + 2],
      direction = stack[depth + 3]
    const start = row * width,
      end = start + width,
      last = start + to,
      parent = direction * width
    let i = start + from
    while (i <= last) {
      const left = i
      if (marks[i] === 0)
        i = extremes
          ? leap(pixels, extremes, row, start, i, end, bounds)
          : runEnd(pixels, i, end, evenLow, evenHigh, oddLow, oddHigh)
      if (i === left) {
        // not a pixel to take: taken before, or it does not fit
        if (marks[i] < IN_EDGE) meet(marks, edge, i, i - parent)
        i++
        continue
      }
      // To the left only from the span's first pixel: the others' left neighbours have been looked at.
      const first = left === start + from ? runStart(pixels, left, start, evenLow, evenHigh, oddLow, oddHigh) : left
      marks.fill(IN, first, i)
      if (first > start && marks[first - 1] < IN_EDGE) meet(marks, edge, first - 1, first)
      if (i < end && marks[i] < IN_EDGE) meet(marks, edge, i, i - 1)
      const a = first - start,
        b = i - 1 - start
      if (direction === 0) {
        push(row - 1, a, b, -1)
        push(row + 1, a, b, 1)
      } else {
        push(row + direction, a, b, direction)
        // Back where it came from, only what overhangs the parent.
        push(row - direction, a, Math.min(b, from - 1), -direction)
        push(row - direction, Math.max(a, to + 1), b, -direction)
      }
    }
  }
  return { marks, edge: edge.done() }
}

// Small functions of their own, so that the compiler finds them hot at once.

/** From pixel `i` to the right (up to `end`) as far as pixels fit. */
function runEnd(
  pixels: Uint32Array,
  i: number,
  end: number,
  evenLow: number,
  evenHigh: number,
  oddLow: number,
  oddHigh: number,
): number {
  while (i < end && isWithin(pixels[i], evenLow, evenHigh, oddLow, oddHigh)) i++
  return i
}

/** From pixel `i` to the left (down to `start`) as far as pixels fit: the first of them. */
function runStart(
  pixels: Uint32Array,
  i: number,
  start: number,
  evenLow: number,
  evenHigh: number,
  oddLow: number,
  oddHigh: number,
): number {
  while (i > start && isWithin(pixels[i - 1], evenLow, evenHigh, oddLow, oddHigh)) i--
  return i
}

/** As runEnd, taking whole runs where their extremes fit. */
function leap(
  pixels: Uint32Array,
  { perRow, least, greatest }: RunExtremes,
  row: number,
  start: number,
  i: number,
  end: number,
  { evenLow, evenHigh, oddLow, oddHigh }: Bounds,
): number {
  for (;;) {
    const run = ((i - start) / RUN) | 0,
      k = row * perRow + run
    const next = Math.min(end, start + (run + 1) * RUN)
    if (
      !isWithin(least[k], evenLow, evenHigh, oddLow, oddHigh) ||
      !isWithin(greatest[k], evenLow, evenHigh, oddLow, oddHigh)
    ) {
      const stop = runEnd(pixels, i, next, evenLow, evenHigh, oddLow, oddHigh)
      if (stop < next) return stop
    }
    if (next === end) return end
    i = next
  }
}

/** A pixel that does not fit, met from `inner`, which does: both lie on the edge. */
function meet(marks: Uint8Array, edge: Indices, outer: number, inner: number): void {
  if (marks[outer] === 0) {
    marks[outer] = OUT_EDGE
    edge.add(outer)
  }
  if (marks[inner] === IN) {
    marks[inner] = IN_EDGE
    edge.add(inner)
  }
}
