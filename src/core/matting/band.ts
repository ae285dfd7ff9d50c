/** Which pixels along the edge of a matte are open to be solved: a band on either side, and fine things that cross its outer border. */
import { nearestSetPixels } from '../raster/distance'
import { type Matte, type Picture } from '../raster/picture'
import { noiseOf, varianceAt } from './noise'

/** The edge lies where coverage crosses this. */
const MIDDLE = 128
/** Fine things are followed up to this times the band's reach from it, as far as they are more lively than this times the grain. */
const WIDER = 5,
  LIVELY = 10

/** 1 up to `reach` px from where coverage crosses the middle. */
export function bandAlong(matte: Matte, reach: number): Uint8Array {
  const { width, height, data } = matte,
    rim = new Uint8Array(data.length),
    crosses = (i: number, j: number) => data[i] >= MIDDLE !== data[j] >= MIDDLE
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (x + 1 < width && crosses(i, i + 1)) rim[i] = rim[i + 1] = 1
      if (y + 1 < height && crosses(i, i + width)) rim[i] = rim[i + width] = 1
    }
  return within(rim, matte, reach, () => true)
}

/** Opens what varies more than grain outside the band, as far as it hangs together with it: hair, spines. In place. */
export function followFineThings(picture: Picture, matte: Matte, open: Uint8Array, reach: number): void {
  const { width, height } = picture,
    lively = noiseOf(picture, open) * LIVELY,
    near = within(open, matte, WIDER * reach, (i) => !open[i] && matte.data[i] < MIDDLE),
    stack: number[] = []
  const reachFrom = (i: number) => {
    for (const j of [i - 1, i + 1, i - width, i + width]) {
      const x = j % width
      if (!near[j] || x === 0 || x === width - 1 || j < width || j >= width * (height - 1)) continue
      near[j] = 0
      if (varianceAt(picture, j) > lively) {
        open[j] = 1
        stack.push(j)
      }
    }
  }
  for (let i = 0; i < open.length; i++) if (open[i]) reachFrom(i)
  while (stack.length) reachFrom(stack.pop()!)
}

/** 1 up to `reach` px from a set (not 0), of the pixels that are wanted. */
function within(set: Uint8Array, size: Matte, reach: number, wanted: (i: number) => boolean): Uint8Array {
  const out = new Uint8Array(set.length),
    { width } = size,
    far = reach * reach
  nearestSetPixels(set, size, reach, (y, nearest, from, to) => {
    for (let x = from, i = y * width + from; x < to; x++, i++) {
      const k = nearest[x]
      if (k >= 0 && ((k % width) - x) ** 2 + (Math.floor(k / width) - y) ** 2 <= far && wanted(i)) out[i] = 1
    }
  })
  return out
}
