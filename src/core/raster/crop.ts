import { type Box } from './content'
import { type Picture, sameSize } from './picture'

/** A box of a raster, row by row. @param into has room for it @param channels values a pixel */
export function cropRows<T extends Uint8Array | Uint8ClampedArray | Float32Array>(
  from: T,
  width: number,
  box: Box,
  into: T,
  channels = 1,
): T {
  for (let y = 0; y < box.height; y++) {
    const at = ((box.y + y) * width + box.x) * channels
    into.set(from.subarray(at, at + box.width * channels), y * box.width * channels)
  }
  return into
}
export function cropPicture(picture: Picture, box: Box): Picture {
  return {
    width: box.width,
    height: box.height,
    data: cropRows(picture.data, picture.width, box, new Uint8ClampedArray(box.width * box.height * 4), 4),
  }
}
/** The same, or the picture itself where the box is all of it. */
export const partOf = (picture: Picture, box: Box): Picture =>
  sameSize(box, picture) ? picture : cropPicture(picture, box)
