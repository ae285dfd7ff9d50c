/** Connected pieces (by sides and corners) of the pixels that have a value. */
import { type Size } from '../raster/picture'

export interface Pieces {
  /** −1 where the pixel has another value. */ readonly pieceOf: Int32Array
  readonly areas: readonly number[]
}

export function piecesOf(data: Uint8Array, { width, height }: Size, value: number): Pieces {
  const pieceOf = new Int32Array(width * height).fill(-1),
    areas: number[] = [],
    stack = new Int32Array(width * height)
  for (let start = 0; start < data.length; start++) {
    if (data[start] !== value || pieceOf[start] >= 0) continue
    const piece = areas.length
    let top = 0,
      area = 0
    stack[top++] = start
    pieceOf[start] = piece
    while (top > 0) {
      const i = stack[--top],
        x = i % width,
        left = x > 0 ? -1 : 0,
        right = x < width - 1 ? 1 : 0
      area++
      for (let row = i >= width ? i - width : i; row <= i + width && row < data.length; row += width) {
        for (let j = row + left; j <= row + right; j++)
          if (data[j] === value && pieceOf[j] < 0) {
            pieceOf[j] = piece
            stack[top++] = j
          }
      }
    }
    areas.push(area)
  }
  return { pieceOf, areas }
}
