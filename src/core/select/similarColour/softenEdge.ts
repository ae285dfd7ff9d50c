import { type Picture, words } from '../../raster/picture'

/** Inside and outside colours nearer than this (Euclidean, 8-bit RGB) say nothing about coverage: the pixel stays in or out. */
const LEAST_CONTRAST = 14
/** Where the pure colours are looked for, px from the edge pixel: beyond the blur of a sharp lens. */
const AWAY = 2
const IN = 255, OUT = 0, IN_EDGE = 254, OUT_EDGE = 1

/**
 * Anti-aliases the edge of a pick from the picture itself: an edge pixel's coverage is how far its colour lies from the colour
 * outside to the colour inside, both taken as means over the pixels around it. Works on `mask` in place (255 in, 0 out).
 * Source: the two-colour case of the compositing equation C = αF + (1 − α)B (Porter and Duff 1984), α by projection onto F − B.
 */
export function softenEdge(mask: Uint8Array, picture: Picture): void {
  const { width, height } = picture
  const edge: number[] = []
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const v = mask[i]
      if ((x > 0 && mask[i - 1] !== v) || (x < width - 1 && mask[i + 1] !== v) || (y > 0 && mask[i - width] !== v) || (y < height - 1 && mask[i + width] !== v)) edge.push(i)
    }
  }
  // Edge pixels are marked, so that only pure ones are taken for the colours of the two sides.
  for (const i of edge) mask[i] = mask[i] ? IN_EDGE : OUT_EDGE
  const pixels = words(picture)
  const coverages = new Uint8Array(edge.length)
  for (let k = 0; k < edge.length; k++) coverages[k] = edgeCoverage(mask, pixels, width, height, edge[k])
  for (let k = 0; k < edge.length; k++) mask[edge[k]] = coverages[k]
}

function edgeCoverage(mask: Uint8Array, pixels: Uint32Array, width: number, height: number, i: number): number {
  const y = (i / width) | 0, x = i - y * width
  let ins = 0, inRed = 0, inGreen = 0, inBlue = 0, outs = 0, outRed = 0, outGreen = 0, outBlue = 0
  for (let dy = -AWAY; dy <= AWAY; dy += AWAY) {
    if (y + dy < 0 || y + dy >= height) continue
    for (let dx = -AWAY; dx <= AWAY; dx += AWAY) {
      if (x + dx < 0 || x + dx >= width || (dx === 0 && dy === 0)) continue
      const j = i + dy * width + dx, word = pixels[j]
      if (mask[j] === IN) { ins++; inRed += word & 255; inGreen += (word >>> 8) & 255; inBlue += (word >>> 16) & 255 }
      else if (mask[j] === OUT) { outs++; outRed += word & 255; outGreen += (word >>> 8) & 255; outBlue += (word >>> 16) & 255 }
    }
  }
  const undecided = mask[i] === IN_EDGE ? IN : OUT
  if (ins === 0 || outs === 0) return undecided
  outRed /= outs; outGreen /= outs; outBlue /= outs
  const red = inRed / ins - outRed, green = inGreen / ins - outGreen, blue = inBlue / ins - outBlue
  const contrast = red * red + green * green + blue * blue
  if (contrast < LEAST_CONTRAST * LEAST_CONTRAST) return undecided
  const word = pixels[i]
  const alpha = (((word & 255) - outRed) * red + (((word >>> 8) & 255) - outGreen) * green + (((word >>> 16) & 255) - outBlue) * blue) / contrast
  return alpha <= 0 ? 0 : alpha >= 1 ? 255 : (255 * alpha + 0.5) | 0
}
