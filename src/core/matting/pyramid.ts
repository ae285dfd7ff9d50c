/** What is being solved at full size and at half, a quarter, … of it, in memory that every thread of the crew sees. */
import { type Box } from '../raster/content'
import { countSet } from '../raster/countSet'
import { cropRows } from '../raster/crop'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { bytesFor, type Crew, floatsFor } from '../parallel/crew'
import { type Finest, levelOf } from './blocks'
import { halved, type Level } from './level'

/** Halved until there are at most so many unknown pixels: from far away the solution comes slowly. */
const FEW = 2000

export interface Pyramid {
  /** Full size, worked on in parts; coverage is in bytes. */ readonly finest: Finest
  /** Level n is the (n − 1)th here; level 0 is full size. */ readonly coarser: readonly Level[]
  /** Unknown pixels on each level. */ readonly counts: readonly number[]
}

/** Of the part of a picture that lies in the box. */
export function pyramidOf(picture: Picture, matte: Matte, unknown: Uint8Array, box: Box, crew: Crew): Pyramid {
  const room = box.width * box.height,
    part: Picture = {
      width: box.width,
      height: box.height,
      data: cropRows(picture.data, picture.width, box, new Uint8ClampedArray(crew.allocate(room * 4), 0, room * 4), 4),
    },
    open = cropRows(unknown, picture.width, box, bytesFor(crew, room)),
    bytes = cropRows(matte.data, matte.width, box, bytesFor(crew, room))
  const coarser: Level[] = [],
    counts = [countSet(open)]
  for (let n = 0; counts[n] > FEW; n++) {
    const last = coarser.at(-1)
    coarser.push(
      last
        ? halved({ picture: last.picture, unknown: last.unknown, coverage: last.alpha, full: 1 }, crew)
        : halved({ picture: part, unknown: open, coverage: bytes, full: 255 }, crew),
    )
    counts.push(countSet(coarser[n].unknown))
    if (counts[n + 1] >= counts[n]) break
  }
  return { finest: { part, open, bytes }, coarser, counts }
}

/** The same with coverage of its own. */
export const copyOf = ({ finest, coarser, ...rest }: Pyramid, crew: Crew): Pyramid => ({
  finest: { ...finest, bytes: copied(finest.bytes, bytesFor(crew, finest.bytes.length)) },
  coarser: coarser.map((level) => ({ ...level, alpha: copied(level.alpha, floatsFor(crew, level.alpha.length)) })),
  ...rest,
})
function copied<T extends Uint8Array | Float32Array>(from: T, to: T): T {
  to.set(from)
  return to
}

/** A level in one piece. */
export const wholeLevel = ({ finest, coarser }: Pyramid, n: number): Level =>
  n > 0 ? coarser[n - 1] : levelOf(finest, { x: 0, y: 0, ...sizeAt({ finest, coarser }, 0) })

/** Of the level's pixels. */
export function sizeAt({ finest, coarser }: Pick<Pyramid, 'finest' | 'coarser'>, n: number): Size {
  const { width, height } = n > 0 ? coarser[n - 1].picture : finest.part
  return { width, height }
}
