/** What there is in a matte, counted in one pass in the kernels. */
import { SLICE_BYTES, withRoom } from '../kernels'
import { type Box } from './content'
import { type Matte } from './picture'

export interface Tally {
  /** Mean coverage, 0-1. */ readonly selected: number
  /** Share of the pixels that are neither empty nor full, 0-1. */ readonly soft: number
  /** The box around all pixels that are not empty; null where all are. */ readonly bounds: Box | null
}

export function tallyOf({ width, height, data }: Matte): Tally {
  const rows = Math.min(height, Math.ceil(SLICE_BYTES / width))
  return withRoom((stack) => {
    const counts = stack.take(32),
      from = stack.take(rows * width),
      part = stack.bytes(from, rows * width),
      sums = new BigUint64Array(stack.run.memory.buffer, counts, 2),
      box = stack.words(counts + 16, 4)
    sums.fill(0n)
    box.set([-1, -1, width, -1])
    for (let y = 0; y < height; y += rows) {
      const now = Math.min(rows, height - y)
      part.set(data.subarray(y * width, (y + now) * width))
      stack.run.tallyRows(from, width, now, y, counts)
    }
    const pixels = width * height,
      [top, bottom, left, right] = box
    return {
      selected: Number(sums[0]) / (255 * pixels),
      soft: Number(sums[1]) / pixels,
      bounds: top < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
    }
  })
}

export const boundsOf = (matte: Matte): Box | null => tallyOf(matte).bounds
