/** What effects look at round about, where kernels can work on it. */
import { type KernelStack } from '../kernels'
import { type Region } from './region'
import { PIXEL_BYTES, type Room } from './room'

/** Writes the premultiplied pixels of any region to a place on the stack that has room for them; memory may grow. */
export type Fetch = (region: Region, at: number) => void

/** Room for a region's pixels, with them in it. */
export function takeFetched(stack: KernelStack, fetch: Fetch, region: Region): number {
  const at = stack.take(region.width * region.height * PIXEL_BYTES)
  fetch(region, at)
  return at
}
/** The pixels as an array of their own, for as long as the node is drawn. */
export function fetched({ stack, scratch }: Room, fetch: Fetch, region: Region): Float32Array {
  const at = takeFetched(stack, fetch, region),
    count = region.width * region.height * 4,
    pixels = scratch.floats(count)
  pixels.set(stack.floats(at, count))
  stack.release(at)
  return pixels
}
