/** Coverage as the network expects it where it is unknown, from colours and from what is known around; looked at in overlapping tiles. */
import { coverageLikelihood, likely } from '../network/likelihood'
import { type Box } from '../raster/content'
import { type Picture, type Size } from '../raster/picture'
import { EMPTY, FULL } from './localColours'

/** A tile is so many px long, as what the network was shown; so many px at its sides are only there to be looked at. */
const TILE = 176,
  RIM = 24

/** What is looked at. */
export interface Known {
  readonly picture: Picture
  /** 1 where coverage is unknown. */ readonly unknown: Uint8Array
  /** Coverage of a pixel that is known, 0-1. */ readonly at: (pixel: number) => number
}

/** How many looks it takes to see all that is unknown. */
export function looks(unknown: Uint8Array, { width, height }: Size): number {
  const columns = stretches(width)
  return stretches(height).reduce(
    (sum, row) => sum + columns.filter((column) => anyIn(unknown, width, column, row)).length,
    0,
  )
}

/** Coverage of a box's pixels, 0-1, where they are unknown. @param check is called now and then */
export function expectedCoverage(known: Known, box: Box, check: () => void): Float32Array {
  const { unknown, picture } = known,
    coverage = new Float32Array(box.width * box.height),
    columns = stretches(box.width, box.x, picture.width),
    rows = stretches(box.height, box.y, picture.height)
  for (const row of rows)
    for (const column of columns) {
      if (!anyIn(unknown, picture.width, column, row)) continue
      check()
      const odds = tileOdds(known, column.seen, row.seen)
      for (let y = row.from; y < row.to; y++)
        for (let x = column.from; x < column.to; x++)
          coverage[(y - box.y) * box.width + x - box.x] = likely(odds[(y - row.seen) * TILE + x - column.seen])
    }
  return coverage
}

/** What the network says of the tile that begins at a place; beyond the picture its border goes on. */
function tileOdds({ picture: { width, height, data }, unknown, at }: Known, left: number, top: number): Float32Array {
  const tile = new Uint8ClampedArray(TILE * TILE * 4),
    known = new Float32Array(TILE * TILE)
  for (let v = 0, i = 0; v < TILE; v++)
    for (let u = 0; u < TILE; u++, i++) {
      const j = Math.min(height - 1, Math.max(0, top + v)) * width + Math.min(width - 1, Math.max(0, left + u))
      for (let c = 0; c < 4; c++) tile[4 * i + c] = data[4 * j + c]
      const coverage = unknown[j] ? 0.5 : at(j)
      known[i] = coverage >= FULL ? 1 : coverage <= EMPTY ? 0 : 0.5
    }
  return coverageLikelihood({ width: TILE, height: TILE, data: tile }, known)
}

interface Stretch {
  readonly from: number
  readonly to: number
  /** Where the tile that holds it, with its rims, begins: within the whole as far as that is long enough. */ readonly seen: number
}

/** A length from a place on, in even stretches. */
function stretches(length: number, start = 0, whole = length): Stretch[] {
  const count = Math.max(1, Math.ceil(length / (TILE - 2 * RIM))),
    at = (k: number) => start + Math.round((k * length) / count),
    last = whole - TILE
  return Array.from({ length: count }, (_, k) => {
    const middle = Math.round((at(k) + at(k + 1) - TILE) / 2)
    return { from: at(k), to: at(k + 1), seen: last < 0 ? Math.round(last / 2) : Math.min(last, Math.max(0, middle)) }
  })
}

function anyIn(unknown: Uint8Array, width: number, column: Stretch, row: Stretch): boolean {
  for (let y = row.from; y < row.to; y++)
    if (unknown.subarray(y * width + column.from, y * width + column.to).includes(1)) return true
  return false
}
