/**
 * What is thinner than the band along its edge would be open from side to side, with nothing known of its own to be told from: its middle stays known.
 * The middle is where the distance to the other side has a ridge (Blum, "A transformation for extracting new descriptors of shape", 1967: the medial axis).
 */
import { alone, type Crew } from '../parallel/crew'
import { cropRows } from '../raster/crop'
import { nearestSetPixels } from '../raster/distance'
import { boundsOf, type Matte, type Size } from '../raster/picture'
import { MIDDLE, nearSet } from './band'
import { around } from './blocks'

/** What is known of the same side so near is enough to be told from, as a multiple of the band's reach. */
const ENOUGH = 2
/** A ridge: so much shallower, px for each px away, are both sides of it together; and so deep it is beside the deepest place near. */
const KINK = 0.5,
  DEEP = 0.5

/** Closes, in place, the middles of thin things and of thin gaps; `open` is a band of so much `reach` along the edge of the matte. */
export function keepMiddles(matte: Matte, open: Uint8Array, reach: number, crew: Crew = alone): void {
  for (const inside of [true, false]) {
    const own = matte.data.map((coverage) => (coverage >= MIDDLE === inside ? 1 : 0)),
      near = nearSet(
        own.map((mine, i) => (mine && !open[i] ? 1 : 0)),
        matte,
        ENOUGH * reach,
        crew,
      )
    const lone = own.map((mine, i) => (mine && open[i] && !near[i] ? 1 : 0)),
      box = around(boundsOf({ ...matte, data: lone }), Math.ceil(reach) + 2, matte)
    if (!box) continue
    const crop = (from: Uint8Array) => cropRows(from, matte.width, box, new Uint8Array(box.width * box.height)),
      depth = depthOf(crop(own), box, reach),
      deepest = deepestNear(depth, box, Math.max(4, Math.ceil(reach))),
      mine = crop(lone)
    for (let y = 1; y < box.height - 1; y++)
      for (let x = 1; x < box.width - 1; x++) {
        const i = y * box.width + x
        if (mine[i] && depth[i] >= DEEP * deepest(x, y) && isRidge(depth, i, box.width))
          open[(box.y + y) * matte.width + box.x + x] = 0
      }
  }
}

/** How far each pixel of a side lies from the other, px; 0 on the other and where that is out of reach. */
function depthOf(own: Uint8Array, size: Size, reach: number): Float32Array {
  const depth = new Float32Array(own.length)
  nearestSetPixels(
    own.map((mine) => 1 - mine),
    size,
    reach + 2,
    (y, nearest, from, to) => {
      for (let x = from; x < to; x++) {
        const k = nearest[x]
        if (k >= 0) depth[y * size.width + x] = Math.hypot((k % size.width) - x, Math.floor(k / size.width) - y)
      }
    },
  )
  return depth
}

/** Along one of the four axes both neighbours together are so much shallower. */
function isRidge(depth: Float32Array, i: number, width: number): boolean {
  const kink = (step: number, away: number) => (2 * depth[i] - depth[i - step] - depth[i + step]) / away
  return (
    kink(1, 1) >= KINK ||
    kink(width, 1) >= KINK ||
    kink(width + 1, Math.SQRT2) >= KINK ||
    kink(width - 1, Math.SQRT2) >= KINK
  )
}

/** The deepest place in the squares of `side` px around a place and beside it. */
function deepestNear(depth: Float32Array, { width, height }: Size, side: number): (x: number, y: number) => number {
  const across = Math.ceil(width / side) + 2,
    most = new Float32Array(across * (Math.ceil(height / side) + 2))
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const square = (Math.floor(y / side) + 1) * across + Math.floor(x / side) + 1
      if (depth[i] > most[square]) most[square] = depth[i]
    }
  return (x, y) => {
    const square = (Math.floor(y / side) + 1) * across + Math.floor(x / side) + 1
    let deepest = 0
    for (let row = square - across; row <= square + across; row += across)
      for (let k = row - 1; k <= row + 1; k++) if (most[k] > deepest) deepest = most[k]
    return deepest
  }
}
