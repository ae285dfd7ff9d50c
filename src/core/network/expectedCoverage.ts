/** Coverage as the network expects it where it is unknown, from colours and from what is known around; looked at in overlapping tiles, which threads may share. */
import { coverageLikelihood, likely } from './likelihood'
import { alone, type Crew, type Task } from '../parallel/crew'
import { anyIn } from '../raster/bounds'
import { type Box } from '../raster/content'
import { EMPTY, FULL } from '../raster/coverage'
import { type Picture, type Size } from '../raster/picture'

/** A tile is so many px long, as what the network was shown; so many px at its sides are only there to be looked at. */
const TILE = 176
export const RIM = 24

/** What is looked at: coverage is 0-1 or bytes, `full` what stands for all. Every thread of the crew sees it. */
export interface Known {
  readonly picture: Picture
  /** 1 where coverage is unknown. */ readonly unknown: Uint8Array
  readonly coverage: Float32Array | Uint8Array
  readonly full: number
}

/** A part of which something is unknown, and where the tile that shows it begins. */
interface Look {
  readonly part: Box
  readonly left: number
  readonly top: number
}

/** What has to be looked at to see all that is unknown. */
export const looksAt = (unknown: Uint8Array, size: Size): Look[] => fewLooksAt(unknown, size, Infinity)!

/** The same; null as soon as it is more than so many. */
export function fewLooksAt(unknown: Uint8Array, size: Size, most: number): Look[] | null {
  const columns = stretches(size.width),
    looks: Look[] = []
  for (const row of stretches(size.height))
    for (const column of columns) {
      const part = { x: column.from, y: row.from, width: column.length, height: row.length }
      if (!anyIn(unknown, size.width, part)) continue
      if (looks.length >= most) return null
      looks.push({ part, left: column.seen, top: row.seen })
    }
  return looks
}

/** Coverage of a picture's pixels, 0-1, where they are unknown. @param check is called between the looks with the progress (0-1) */
export function expectedCoverage(
  known: Known,
  looks: readonly Look[],
  check: (progress: number) => void,
  crew: Crew = alone,
): Float32Array {
  const count = known.unknown.length,
    out = new Float32Array(crew.allocate(count * 4), 0, count)
  crew.share(lookAtTiles, { ...known, out }, looks, check)
  return out
}

export const lookAtTiles: Task<Known & { readonly out: Float32Array }, Look> = {
  name: 'expected coverage of tiles',
  begin: (known) => (look) => lookAt(known, look),
}

function lookAt({ out, ...known }: Known & { readonly out: Float32Array }, { part, left, top }: Look): void {
  const odds = tileOdds(known, left, top)
  for (let y = part.y; y < part.y + part.height; y++)
    for (let x = part.x, i = y * known.picture.width + x; x < part.x + part.width; x++, i++)
      if (known.unknown[i]) out[i] = likely(odds[(y - top) * TILE + x - left])
}

/** What the network says of the tile that begins at a place; beyond the picture its border goes on. */
function tileOdds({ picture: { width, height, data }, unknown, coverage, full }: Known, left: number, top: number) {
  const tile = new Uint8ClampedArray(TILE * TILE * 4),
    known = new Float32Array(TILE * TILE).fill(0.5)
  for (let v = 0, i = 0; v < TILE; v++)
    for (let u = 0; u < TILE; u++, i++) {
      const j = Math.min(height - 1, Math.max(0, top + v)) * width + Math.min(width - 1, Math.max(0, left + u))
      for (let c = 0; c < 4; c++) tile[4 * i + c] = data[4 * j + c]
      if (unknown[j]) continue
      if (coverage[j] >= FULL * full) known[i] = 1
      else if (coverage[j] <= EMPTY * full) known[i] = 0
    }
  return coverageLikelihood({ width: TILE, height: TILE, data: tile }, known)
}

/** A length in even stretches, and where the tile that shows each with its rims begins: within the whole where that is long enough. */
function stretches(length: number): { from: number; length: number; seen: number }[] {
  const count = Math.max(1, Math.ceil((length - 2 * RIM) / (TILE - 2 * RIM))),
    at = (k: number) => Math.round((k * length) / count),
    last = length - TILE
  return Array.from({ length: count }, (_, k) => {
    const middle = Math.round((at(k) + at(k + 1) - TILE) / 2),
      seen = last < 0 ? Math.round(last / 2) : Math.min(last, Math.max(0, middle))
    return { from: at(k), length: at(k + 1) - at(k), seen }
  })
}
