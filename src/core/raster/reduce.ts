import { type DeepPicture, type Picture, sameSize, type Size } from './picture'
import { resize } from './resize'

/** The size of a picture whose longer side has at most `longest` px. */
export function reducedSize({ width, height }: Size, longest: number | undefined): Size {
  const scale = longest ? Math.min(1, longest / Math.max(width, height)) : 1
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
}
/** A picture whose longer side has at most `longest` px; itself where it is small enough. */
export function reduced<P extends Picture | DeepPicture>(picture: P, longest: number | undefined): P {
  const size = reducedSize(picture, longest)
  return sameSize(size, picture) ? picture : resize(picture, size)
}
