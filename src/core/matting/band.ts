/** Which pixels along the edge of a matte are open to be solved: a band on either side. */
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { type Rows, stripsOf } from '../parallel/strips'
import { withinReach } from '../raster/distance'
import { type Matte, type Size } from '../raster/picture'
import { wordsOf } from '../raster/wordsOf'

/** Hears of progress, 0-1, and throws to call the work off. */
type Check = (progress: number) => void

/** The edge lies where coverage crosses this. */
export const MIDDLE = 128
/** Of four px in a word, the bits that say on which side of the middle they lie. */
export const SIDES = 0x80808080

/** 1 up to `reach` px from where coverage crosses the middle. */
export function bandAlong(matte: Matte, reach: number, crew: Crew = alone, check?: Check): Uint8Array {
  return nearTo('edge', matte.data, matte, reach, crew, check)
}

/** 1 up to `reach` px from what is not 0. */
export const nearSet = (set: Uint8Array, size: Size, reach: number, crew: Crew = alone, check?: Check): Uint8Array =>
  nearTo('set', set, size, reach, crew, check)

/** Rows looked at in one go, at least; and as many as lie within reach above and below them. */
const ROWS = 256

/** Near to what: the pixels that are not 0, or those on both sides of where coverage crosses the middle. */
type NearTo = 'set' | 'edge'
interface Nearness extends Size {
  readonly what: NearTo
  readonly data: Uint8Array
  readonly reach: number
  readonly out: Uint8Array
}

/** 1 up to `reach` px from something. Strips of rows by themselves: nothing farther away decides. */
function nearTo(
  what: NearTo,
  data: Uint8Array,
  { width, height }: Size,
  reach: number,
  crew: Crew,
  check?: Check,
): Uint8Array {
  const out = new Uint8Array(crew.allocate(data.length)),
    strips = stripsOf(height, Math.max(ROWS, Math.ceil(4 * reach)))
  crew.share(nearRows, { what, data: seenByAll(crew, data), width, height, reach, out }, strips, check)
  return out
}

export const nearRows: Task<Nearness, Rows> = {
  name: 'near rows',
  begin: (nearness) => (rows) => nearIn(nearness, rows),
}

function nearIn({ what, data, width, height, reach, out }: Nearness, { from, to }: Rows): void {
  const spare = Math.ceil(reach) + 2,
    top = Math.max(0, from - spare),
    bottom = Math.min(height, to + spare),
    size: Size = { width, height: bottom - top },
    strip = data.subarray(top * width, bottom * width)
  const set = what === 'edge' ? bothSides(strip, size) : strip
  if (!isAny(set)) return
  const near = withinReach(set, size, reach)
  out.set(near.subarray((from - top) * width, (to - top) * width), from * width)
}

/** Whether anything is set. */
function isAny(set: Uint8Array): boolean {
  for (let i = 0; i < set.length; i++) if (set[i]) return true
  return false
}

/** 1 on both sides of where coverage crosses the middle. Four px that lie on the side of those right of and below them are passed over at once. */
function bothSides(data: Uint8Array, { width }: Size): Uint8Array {
  const rim = new Uint8Array(data.length),
    words = wordsOf(data),
    right = wordsOf(data.subarray(1)),
    below = wordsOf(data.subarray(width))
  const look = (from: number, to: number) => {
    for (let i = from; i < to; i++) {
      const inside = data[i] >= MIDDLE
      if ((i + 1) % width && inside !== data[i + 1] >= MIDDLE) rim[i] = rim[i + 1] = 1
      if (i + width < data.length && inside !== data[i + width] >= MIDDLE) rim[i] = rim[i + width] = 1
    }
  }
  for (let k = 0; k < below.length; k++)
    if (((words[k] ^ right[k]) | (words[k] ^ below[k])) & SIDES) look(4 * k, 4 * k + 4)
  look(4 * below.length, data.length)
  return rim
}
