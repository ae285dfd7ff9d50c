/** Fine things that cross the border of the band along an edge: hair, spines. They are followed as far as they are more lively than grain. */
import { alone, bytesFor, type Crew, seenByAll, type Task } from '../parallel/crew'
import { type Rows, stripsOf } from '../parallel/strips'
import { type Matte, type Picture } from '../raster/picture'
import { MIDDLE, nearSet } from './band'
import { noiseOf, varianceAt } from './noise'

/** They are followed up to this times the band's reach from it, as far as they are more lively than this times the grain. */
export const WIDER = 5,
  LIVELY = 10
/** Rows followed in one go. */
const ROWS = 128

/** In strips of rows: what leaves a strip is followed on in the next round by the one beside it, until nothing more is opened. */
interface Following {
  readonly picture: Picture
  readonly coverage: Uint8Array
  /** 1 where something may be opened that has not been looked at. */ readonly near: Uint8Array
  readonly open: Uint8Array
  readonly lively: number
  /** Of each strip, whether something was opened at its upper border (1) and at its lower one (2). */ readonly opened: Uint8Array
}
interface Strip extends Rows {
  readonly number: number
  /** What lies within was followed before. */ readonly again: boolean
}

/** Opens what varies more than grain outside the band, as far as it hangs together with it. In place. */
export function followFineThings(
  picture: Picture,
  matte: Matte,
  open: Uint8Array,
  reach: number,
  crew: Crew = alone,
  check?: (progress: number) => void,
): void {
  const { width, height } = picture,
    strips: Strip[] = stripsOf(height, ROWS).map((rows, number) => ({ ...rows, number, again: false }))
  const common: Following = {
    picture: { width, height, data: seenByAll(crew, picture.data) },
    coverage: seenByAll(crew, matte.data),
    near: nearSet(open, matte, WIDER * reach, crew, check),
    open: seenByAll(crew, open),
    lively: noiseOf(picture, open) * LIVELY,
    opened: bytesFor(crew, strips.length),
  }
  for (let round = strips; round.length;) {
    common.opened.fill(0)
    crew.share(followInStrips, common, round, check)
    round = strips
      .filter(({ number: k }) => (k > 0 && common.opened[k - 1] & 2) || common.opened[k + 1] & 1)
      .map((strip) => ({ ...strip, again: true }))
  }
  if (common.open !== open) open.set(common.open)
}

export const followInStrips: Task<Following, Strip> = {
  name: 'follow fine things',
  begin: (common) => (strip) => followInStrip(common, strip),
}

function followInStrip(common: Following, strip: Strip): void {
  const {
      picture: { width, height },
      coverage,
      near,
      open,
    } = common,
    { from, to } = strip,
    start = from * width,
    end = to * width,
    opened: number[] = []
  if (!strip.again) {
    for (let i = start; i < end; i++) if (open[i] || coverage[i] >= MIDDLE) near[i] = 0
    // What varies cannot be told at the picture's border.
    for (let y = from; y < to; y++)
      if (y === 0 || y === height - 1) near.fill(0, y * width, (y + 1) * width)
      else near[y * width] = near[(y + 1) * width - 1] = 0
    // What has been opened meanwhile waits in the stack.
    for (let i = open.indexOf(1, start); i >= 0 && i < end; i = open.indexOf(1, i))
      for (; i < end && open[i]; i++) lookAround(common, strip, i, opened)
  }
  for (let x = 0; x < width; x++) {
    if (from > 0 && open[start - width + x]) look(common, strip, start + x, opened)
    if (to < height && open[end + x]) look(common, strip, end - width + x, opened)
  }
  while (opened.length) lookAround(common, strip, opened.pop()!, opened)
}

function lookAround(common: Following, strip: Strip, i: number, opened: number[]): void {
  const { width } = common.picture
  look(common, strip, i - 1, opened)
  look(common, strip, i + 1, opened)
  look(common, strip, i - width, opened)
  look(common, strip, i + width, opened)
}

/** At pixel number `i`: where it is opened, it waits to be looked around. */
function look(
  { picture, near, open, lively, opened: borders }: Following,
  { number, from, to }: Strip,
  i: number,
  opened: number[],
): void {
  const { width } = picture,
    start = from * width,
    end = to * width
  if (i < start || i >= end || !near[i]) return
  near[i] = 0
  if (varianceAt(picture, i) <= lively) return
  open[i] = 1
  if (i < start + width) borders[number] |= 1
  if (i >= end - width) borders[number] |= 2
  opened.push(i)
}
