/** Which pixels along the edge of a matte are open to be solved: a band on either side, and fine things that cross its outer border. */
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { withinReach } from '../raster/distance'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { noiseOf, varianceAt } from './noise'

/** Hears of progress, 0-1, and throws to call the work off. */
type Check = (progress: number) => void

/** The edge lies where coverage crosses this. */
export const MIDDLE = 128
/** Fine things are followed up to this times the band's reach from it, as far as they are more lively than this times the grain. */
const WIDER = 5,
  LIVELY = 10

/** 1 up to `reach` px from where coverage crosses the middle. */
export function bandAlong(matte: Matte, reach: number, crew: Crew = alone, check?: Check): Uint8Array {
  return nearTo('edge', matte.data, matte, reach, crew, check)
}

/** 1 up to `reach` px from what is not 0. */
export const nearSet = (set: Uint8Array, size: Size, reach: number, crew: Crew = alone, check?: Check): Uint8Array =>
  nearTo('set', set, size, reach, crew, check)

/** Opens what varies more than grain outside the band, as far as it hangs together with it: hair, spines. In place. */
export function followFineThings(
  picture: Picture,
  matte: Matte,
  open: Uint8Array,
  reach: number,
  crew: Crew = alone,
  check?: Check,
): void {
  const { width, height } = picture,
    lively = noiseOf(picture, open) * LIVELY,
    near = nearSet(open, matte, WIDER * reach, crew, check),
    stack: number[] = []
  for (let i = 0; i < near.length; i++) if (open[i] || matte.data[i] >= MIDDLE) near[i] = 0
  // What varies cannot be told at the picture's border.
  near.fill(0, 0, width).fill(0, width * (height - 1))
  for (let y = 1; y < height; y++) near.fill(0, y * width - 1, y * width + 1)
  const look = (i: number) => {
    if (!near[i]) return
    near[i] = 0
    if (varianceAt(picture, i) <= lively) return
    open[i] = 1
    stack.push(i)
  }
  const lookAround = (i: number) => {
    look(i - 1)
    look(i + 1)
    look(i - width)
    look(i + width)
  }
  // What has been opened meanwhile waits in the stack.
  for (let i = 0; i < open.length; i++) if (open[i]) lookAround(i)
  while (stack.length) lookAround(stack.pop()!)
}

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
interface Rows {
  readonly from: number
  readonly to: number
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
    rows = Math.max(ROWS, Math.ceil(4 * reach)),
    strips: Rows[] = []
  for (let from = 0; from < height; from += rows) strips.push({ from, to: Math.min(height, from + rows) })
  crew.share(nearRows, { what, data: seenByAll(crew, data), width, height, reach, out }, strips, check)
  return out
}

export const nearRows: Task<Nearness, Rows> = {
  name: 'near rows',
  begin:
    ({ what, data, width, height, reach, out }) =>
    ({ from, to }) => {
      const spare = Math.ceil(reach) + 2,
        top = Math.max(0, from - spare),
        bottom = Math.min(height, to + spare),
        size: Size = { width, height: bottom - top },
        strip = data.subarray(top * width, bottom * width)
      const set = what === 'edge' ? bothSides(strip, size) : strip
      if (!set.some((v) => v > 0)) return
      const near = withinReach(set, size, reach)
      out.set(near.subarray((from - top) * width, (to - top) * width), from * width)
    },
}

/** 1 on both sides of where coverage crosses the middle. */
function bothSides(data: Uint8Array, { width, height }: Size): Uint8Array {
  const rim = new Uint8Array(data.length)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const inside = data[i] >= MIDDLE
      if (x + 1 < width && inside !== data[i + 1] >= MIDDLE) rim[i] = rim[i + 1] = 1
      if (y + 1 < height && inside !== data[i + width] >= MIDDLE) rim[i] = rim[i + width] = 1
    }
  return rim
}
