/** The level that light and tones are looked at on. */
import { halveMatte, halvePicture } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'

/** It has at most so many pixels. */
const MOST_PIXELS = 600_000

const isSmall = ({ width, height }: Picture): boolean => width * height <= MOST_PIXELS

export const smallPicture = (picture: Picture): Picture =>
  isSmall(picture) ? picture : smallPicture(halvePicture(picture))

/** The same with a matte of the picture's size. */
export const smallLevel = (picture: Picture, matte: Matte): { readonly small: Picture; readonly cover: Matte } =>
  isSmall(picture) ? { small: picture, cover: matte } : smallLevel(halvePicture(picture), halveMatte(matte))
