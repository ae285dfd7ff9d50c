import { type Picture, words } from './picture'
import { IN, IN_EDGE, OUT } from './edgeMarks'

/** Inside and outside colours nearer than this (Euclidean, 8-bit RGB) say nothing about coverage: the pixel stays in or out. */
const LEAST_CONTRAST = 14
/** Where the pure colours are looked for, px from the edge pixel: beyond the blur of a sharp lens. */
export const AWAY = 2

/** Reciprocals of the numbers of pixels looked at: a division costs more than a look. */
const ONE_OVER = Float64Array.from({ length: 10 }, (_, n) => 1 / n)

/**
 * Anti-aliases the edge of a pick from the picture itself: an edge pixel's coverage is how far its colour lies from the colour
 * outside to the colour inside, both taken as means over the sure pixels around it. Works on the marks in place.
 * Source: the two-colour case of the compositing equation C = αF + (1 − α)B (Porter and Duff 1984), α by projection onto F − B.
 * @param edge the indices of the pixels marked IN_EDGE and OUT_EDGE
 */
export function softenEdge(marks: Uint8Array, edge: Int32Array, picture: Picture): Uint8Array {
  const { width, height } = picture
  const pixels = words(picture)
  const coverages = new Uint8Array(edge.length)
  for (let k = 0; k < edge.length; k++) coverages[k] = coverageAt(marks, pixels, width, height, edge[k])
  for (let k = 0; k < edge.length; k++) marks[edge[k]] = coverages[k]
  return marks
}

/** Coverage (0-255) of one edge pixel, from the marks and the picture's words. */
export function coverageAt(marks: Uint8Array, pixels: Uint32Array, width: number, height: number, i: number): number {
  const y = (i / width) | 0,
    x = i - y * width
  const fromX = x >= AWAY ? -AWAY : 0,
    toX = x + AWAY < width ? AWAY : 0,
    toY = y + AWAY < height ? AWAY : 0
  // Red and blue are summed in one word: nine bytes cannot run over sixteen bits.
  let ins = 0,
    inRedBlue = 0,
    inGreen = 0,
    outs = 0,
    outRedBlue = 0,
    outGreen = 0
  for (let dy = y >= AWAY ? -AWAY : 0; dy <= toY; dy += AWAY) {
    for (let j = i + dy * width + fromX, end = i + dy * width + toX; j <= end; j += AWAY) {
      const mark = marks[j]
      if (mark === IN) {
        const word = pixels[j]
        ins++
        inRedBlue += word & 0xff00ff
        inGreen += (word >>> 8) & 255
      } else if (mark === OUT) {
        const word = pixels[j]
        outs++
        outRedBlue += word & 0xff00ff
        outGreen += (word >>> 8) & 255
      }
    }
  }
  const undecided = marks[i] === IN_EDGE ? IN : OUT
  if (ins === 0 || outs === 0) return undecided
  const perIn = ONE_OVER[ins],
    perOut = ONE_OVER[outs],
    word = pixels[i]
  const outRed = (outRedBlue & 0xffff) * perOut,
    outBlue = (outRedBlue >>> 16) * perOut,
    outMeanGreen = outGreen * perOut
  const red = (inRedBlue & 0xffff) * perIn - outRed,
    green = inGreen * perIn - outMeanGreen,
    blue = (inRedBlue >>> 16) * perIn - outBlue
  const contrast = red * red + green * green + blue * blue
  if (contrast < LEAST_CONTRAST * LEAST_CONTRAST) return undecided
  const alpha =
    (((word & 255) - outRed) * red +
      (((word >>> 8) & 255) - outMeanGreen) * green +
      (((word >>> 16) & 255) - outBlue) * blue) /
    contrast
  return alpha <= 0 ? 0 : alpha >= 1 ? 255 : (255 * alpha + 0.5) | 0
}
