import { type Picture, words } from '../../raster/picture'
import { type JoinOrder } from './joinOrder'
import { IN, IN_EDGE, markEdges, OUT, OUT_EDGE } from '../../raster/edgeMarks'
import { AWAY, coverageAt } from '../../raster/softenEdge'

/** Where more pixels than this share of the picture change at once, all edges are looked for anew: a scan is then cheaper. */
const BULK = 1 / 12

/**
 * A pick whose tolerance moves: from one tolerance to the next only the pixels between them, and the edge beside them, are touched.
 * The coverage it hands out is its own; it is valid until the tolerance is set again. Memory: 2 bytes a pixel, the order apart.
 */
export class LivePick {
  /** IN or IN_EDGE inside, OUT_EDGE or OUT outside. */
  private readonly marks: Uint8Array
  private readonly coverage: Uint8Array
  private readonly pixels: Uint32Array
  private count = 0
  private soft = true

  constructor(
    private readonly picture: Picture,
    private readonly joins: JoinOrder,
  ) {
    this.marks = new Uint8Array(joins.order.length)
    this.coverage = new Uint8Array(joins.order.length)
    this.pixels = words(picture)
  }

  get bytes(): number {
    return this.marks.length * 2 + this.joins.order.byteLength
  }
  get ends(): Int32Array {
    return this.joins.ends
  }

  /** @param tolerance 0-255 @param soft anti-aliased from the picture's colours */
  at(tolerance: number, soft: boolean): Uint8Array {
    const count = this.joins.ends[Math.floor(tolerance)]
    const changed = this.joins.order.subarray(Math.min(count, this.count), Math.max(count, this.count))
    const anew = soft !== this.soft || changed.length > this.marks.length * BULK
    const value = count > this.count ? IN : OUT
    this.count = count
    this.soft = soft
    setAll(this.marks, changed, value)
    if (anew) this.markAll()
    else if (changed.length) this.markAround(changed.slice().sort()) // in the order of memory
    return this.coverage
  }

  private markAll(): void {
    const {
      marks,
      coverage,
      pixels,
      soft,
      picture: { width, height },
    } = this
    const edge = markEdges(marks, 'marks', this.picture, true, (rows, first) => {
      marks.set(rows, first)
      coverage.set(rows, first)
    })
    for (const i of edge)
      coverage[i] = soft ? coverageAt(marks, pixels, width, height, i) : marks[i] === IN_EDGE ? IN : OUT
  }

  /** Marks can only have changed on the changed pixels and their neighbours; coverage only where a mark it looks at has. */
  private markAround(changed: Int32Array): void {
    const {
      marks,
      coverage,
      soft,
      picture: { width, height },
    } = this
    const moved: number[] = []
    const mark = (i: number, x: number, flipped: boolean): void => {
      const now = markOf(marks, i, x, width, height)
      if (now === marks[i] && !flipped) return
      marks[i] = now
      coverage[i] = now >= IN_EDGE ? IN : OUT
      moved.push(i)
    }
    for (let k = 0; k < changed.length; k++) {
      const i = changed[k],
        x = i % width
      mark(i, x, true)
      if (x > 0) mark(i - 1, x - 1, false)
      if (x < width - 1) mark(i + 1, x + 1, false)
      if (i >= width) mark(i - width, x, false)
      if (i < width * (height - 1)) mark(i + width, x, false)
    }
    if (soft) this.softenAround(moved)
  }

  /** The edge pixels among these and among those that look at one of these, each once. */
  private softenAround(moved: readonly number[]): void {
    const {
      marks,
      coverage,
      pixels,
      picture: { width, height },
    } = this
    const todo: number[] = []
    const ask = (j: number): void => {
      if (marks[j] === IN_EDGE) {
        marks[j] = IN_ASKED
        todo.push(j)
      } else if (marks[j] === OUT_EDGE) {
        marks[j] = OUT_ASKED
        todo.push(j)
      }
    }
    for (const i of moved) {
      const y = (i / width) | 0,
        x = i - y * width
      const left = x >= AWAY ? AWAY : 0,
        right = x + AWAY < width ? AWAY : 0
      for (let dy = y >= AWAY ? -AWAY : 0; dy <= AWAY && y + dy < height; dy += AWAY)
        for (let j = i + dy * width - left; j <= i + dy * width + right; j += AWAY) ask(j)
    }
    for (const j of todo) marks[j] = marks[j] === IN_ASKED ? IN_EDGE : OUT_EDGE
    for (const j of todo) coverage[j] = coverageAt(marks, pixels, width, height, j)
  }
}

/** Edge pixels already on the list. */
const IN_ASKED = 253,
  OUT_ASKED = 2

function setAll(marks: Uint8Array, indices: Int32Array, value: number): void {
  for (let k = 0; k < indices.length; k++) marks[indices[k]] = value
}

/** What a pixel's mark must be, given which side it and its four neighbours are on. */
function markOf(marks: Uint8Array, i: number, x: number, width: number, height: number): number {
  const inside = marks[i] >= IN_EDGE
  const onEdge =
    (x > 0 && marks[i - 1] >= IN_EDGE !== inside) ||
    (x < width - 1 && marks[i + 1] >= IN_EDGE !== inside) ||
    (i >= width && marks[i - width] >= IN_EDGE !== inside) ||
    (i < width * (height - 1) && marks[i + width] >= IN_EDGE !== inside)
  return inside ? (onEdge ? IN_EDGE : IN) : onEdge ? OUT_EDGE : OUT
}
