// Draws the mask pictures that come with the application: node masks/draw.mjs. White shows, black hides.
import sharp from 'sharp'
import { hash, noise, octaves, smooth } from './noise.mjs'

const WIDTH = 1800,
  HEIGHT = 1200
const PICTURES = {
  /** Paper torn along all four sides, with the fibres of its thickness. */
  'torn-edge': (x, y) => {
    const side = Math.min(x, WIDTH - x, y, HEIGHT - y),
      along = side === y || side === HEIGHT - y ? x : y
    const edge =
      70 +
      70 * (octaves(along / 120, side === x || side === y ? 3 : 9, 11, 5) - 0.5) +
      26 * (octaves(x / 22, y / 22, 23, 3) - 0.5)
    return (
      smooth(edge - 1.5, edge + 1.5, side) *
      (0.55 + 0.45 * smooth(edge + 6, edge + 16 + 20 * octaves(x / 30, y / 30, 31, 2), side))
    )
  },
  vignette: (x, y) =>
    1 - smooth(0.55, 1.22, Math.hypot((x - WIDTH / 2) / (WIDTH / 2), (y - HEIGHT / 2) / (HEIGHT / 2))),
  /** Broad strokes across, ends ragged by the bristles. */
  'brush-edge': (x, y) => {
    let value = 0
    for (let n = 0; n < 7; n++) {
      const middle = 150 + n * 150 + 30 * (hash(n, 1, 5) - 0.5),
        sway = 26 * Math.sin(x / 310 + n * 1.7) + 14 * (noise(x / 90, n, 41) - 0.5),
        off = y - middle - sway
      const bristle = octaves(off / 5, n * 9, 51, 3),
        left = 90 + 130 * hash(n, 2, 5) + 190 * (bristle - 0.5),
        right = WIDTH - 90 - 150 * hash(n, 3, 5) - 240 * (bristle - 0.5)
      const body =
        (1 - smooth(86, 104, Math.abs(off) + 10 * (noise(x / 30, off / 12, 61 + n) - 0.5))) *
        smooth(left - 12, left + 12, x) *
        (1 - smooth(right - 12, right + 12, x))
      const dry = smooth(
        0.36,
        0.52,
        octaves(x / 160, off / 3.5, 71 + n, 3) + 0.42 * (1 - smooth(WIDTH * 0.3, WIDTH, x)),
      )
      value = Math.max(value, body * (0.25 + 0.75 * dry))
    }
    return value
  },
  /** Three cones of light from above, and what they throw on the floor. */
  spotlights: (x, y) => {
    let dark = 1
    for (const [top, foot, width] of [
      [420, 300, 210],
      [900, 900, 250],
      [1380, 1500, 210],
    ]) {
      const t = (y + 60) / (HEIGHT * 0.86 + 60),
        middle = top + (foot - top) * t,
        half = 26 + width * t
      const cone =
        t < 1.1 ? (1 - smooth(half * 0.55, half * 1.15, Math.abs(x - middle))) * (0.85 - 0.45 * Math.min(1, t)) : 0
      const pool = 1 - smooth(0.72, 1.16, Math.hypot((x - foot) / (width + 40), (y - HEIGHT * 0.86) / 92))
      dark *= 1 - Math.min(1, Math.max(cone, pool))
    }
    return 1 - dark
  },
  /** A stage seen between drawn curtains, their folds gathered to the sides, under a scalloped valance. */
  'stage-curtain': (x, y) => {
    const fromSide = Math.min(x, WIDTH - x),
      gather = 250 + 120 * Math.exp(-(((y - 700) / 260) ** 2)) * -0.9 + 70 * (y / HEIGHT)
    const fold = 16 * Math.sin(y / 70 + fromSide / 30),
      open = smooth(gather + fold - 5, gather + fold + 5, fromSide)
    const valance = 150 + 42 * Math.abs(Math.sin((x / WIDTH) * Math.PI * 6)),
      below = smooth(valance - 4, valance + 4, y)
    const folds = 0.1 + 0.09 * Math.sin(fromSide / 11 + 0.6 * Math.sin(y / 160))
    return Math.max(open * below, (1 - open * below) * folds * 0.5)
  },
}

for (const [name, value] of Object.entries(PICTURES)) {
  const data = Buffer.alloc(WIDTH * HEIGHT)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) data[i] = Math.round(255 * Math.min(1, Math.max(0, value(x + 0.5, y + 0.5))))
  const { size } = await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 1 } })
    .toColourspace('b-w')
    .png({ compressionLevel: 9 })
    .toFile(new URL(`${name}.png`, import.meta.url).pathname)
  console.log(`${name}.png ${Math.round(size / 1024)} KB`)
}
