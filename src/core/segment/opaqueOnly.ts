import { type Picture } from '../raster/picture'
import { OUTSIDE, UNDECIDED } from './gridCut'

/** Alpha below this is as good as nothing. */
const LEAST_ALPHA = 128

/** What is given where nothing else is: what is transparent is outside, the rest undecided. */
export function opaqueOnly({ data, width, height }: Picture): Uint8Array {
  const given = new Uint8Array(width * height).fill(UNDECIDED)
  for (let i = 0; i < given.length; i++) if (data[4 * i + 3] < LEAST_ALPHA) given[i] = OUTSIDE
  return given
}
