/** The two rasters everything shares: a Picture (RGBA, 8-bit sRGB, straight alpha) and a Matte (8-bit coverage). */

export interface Picture {
  readonly width: number
  readonly height: number
  /** width × height × 4 bytes, rows from the top: red, green, blue, alpha; straight alpha. */
  readonly data: Uint8ClampedArray
}

/** The same in 16 bits a channel. */
export interface DeepPicture extends Size {
  readonly data: Uint16Array
}

export interface Matte {
  readonly width: number
  readonly height: number
  /** width × height bytes, rows from the top: 0 outside, 255 inside, between is the share of the pixel covered. */
  readonly data: Uint8Array
}

export interface Size {
  readonly width: number
  readonly height: number
}

export function emptyMatte({ width, height }: Size): Matte {
  return { width, height, data: new Uint8Array(width * height) }
}

export const sameSize = (one: Size, other: Size): boolean => one.width === other.width && one.height === other.height

/** True when every pixel's alpha is 255. */
export function isOpaque(picture: Picture): boolean {
  const { data } = picture
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return false
  return true
}

/** The picture's pixels as one 32-bit word each (red in the low byte), sharing its memory. */
export function words(picture: Picture): Uint32Array {
  return new Uint32Array(picture.data.buffer, picture.data.byteOffset, picture.width * picture.height)
}
