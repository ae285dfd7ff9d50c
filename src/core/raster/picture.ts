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

/** The box around all pixels that are not 0; null when all are. */
export function boundsOf({ width, data }: Matte): { x: number; y: number; width: number; height: number } | null {
  // Much of a matte is empty: four pixels at a time.
  const aligned = data.byteOffset % 4 === 0,
    quads = aligned ? new Uint32Array(data.buffer, data.byteOffset, data.length >> 2) : new Uint32Array(0)
  let first = 0,
    last = data.length - 1
  while (first >> 2 < quads.length && quads[first >> 2] === 0) first += 4
  while (first < data.length && data[first] === 0) first++
  if (first === data.length) return null
  while (last >= 0 && data[last] === 0 && (last & 3) !== 3) last--
  while (last >> 2 < quads.length && last >= 3 && quads[last >> 2] === 0) last -= 4
  while (data[last] === 0) last--
  const top = Math.floor(first / width),
    bottom = Math.floor(last / width)
  let left = width,
    right = 0
  for (let y = top, row = top * width; y <= bottom; y++, row += width) {
    for (let i = row; i < row + left; i++)
      if (data[i] > 0) {
        left = i - row
        break
      }
    for (let i = row + width - 1; i >= row + right; i--)
      if (data[i] > 0) {
        right = i - row + 1
        break
      }
  }
  return { x: left, y: top, width: right - left, height: bottom - top + 1 }
}

/** Share of the canvas selected (mean coverage, 0-1) and share of pixels that are neither empty nor full (0-1). */
export function shares({ data }: Matte): { selected: number; soft: number } {
  // Most of a matte is flat: four pixels at a time where they are all empty or all full.
  const quads =
    data.byteOffset % 4 === 0 ? new Uint32Array(data.buffer, data.byteOffset, data.length >> 2) : new Uint32Array(0)
  let full = 0,
    sum = 0,
    soft = 0
  const count = (v: number): void => {
    sum += v
    if (v !== 0 && v !== 255) soft++
  }
  for (let k = 0; k < quads.length; k++) {
    const quad = quads[k]
    if (quad === 0) continue
    if (quad === 0xffffffff) {
      full += 4
      continue
    }
    for (let i = 4 * k; i < 4 * k + 4; i++) count(data[i])
  }
  for (let i = 4 * quads.length; i < data.length; i++) count(data[i])
  return { selected: (sum + 255 * full) / (255 * data.length), soft: soft / data.length }
}
