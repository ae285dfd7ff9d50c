// Draws the backdrops that come with the application: node backdrops/draw.mjs.
import sharp from 'sharp'
import { hash, noise, octaves, smooth } from '../masks/noise.mjs'

const WIDTH = 2400,
  HEIGHT = 1600
const mix = (a, b, t) => a.map((v, i) => v + (b[i] - v) * t)
/** Light from the upper left, falling off, on a sheet that turns from wall to floor. @returns factor */
const sweep = (x, y) => {
  const fall = 1.08 - 0.34 * Math.hypot((x - WIDTH * 0.36) / WIDTH, (y - HEIGHT * 0.3) / HEIGHT),
    turn = smooth(HEIGHT * 0.62, HEIGHT * 0.84, y)
  return fall * (1 - 0.16 * Math.sin(Math.PI * turn) + 0.07 * turn)
}
const paper = (colour) => (x, y) => {
  const light = sweep(x, y) * (1 + 0.012 * (octaves(x / 3, y / 3, 7, 2) - 0.5))
  return colour.map((v) => v * light)
}

/** Linear light, 0-1. */
const PICTURES = {
  'paper-warm-grey': paper([0.42, 0.395, 0.36]),
  'paper-pale-blue': paper([0.44, 0.55, 0.62]),
  'paper-charcoal': paper([0.045, 0.046, 0.05]),
  /** Lime plaster, put on in strokes, lit from the side. */
  plaster: (x, y) => {
    const at = (i, j) =>
      octaves(i / 210, j / 150, 3, 5) + 0.16 * octaves(i / 26 + j / 70, j / 34, 17, 3) + 0.05 * noise(i / 3, j / 3, 29)
    const slope = (at(x - 2, y - 1.5) - at(x + 2, y + 1.5)) * 5,
      stain = smooth(0.42, 0.72, octaves(x / 520, y / 460, 41, 4))
    const light = (0.92 + slope) * (1.06 - 0.26 * Math.hypot(x / WIDTH - 0.3, y / HEIGHT - 0.35))
    return mix([0.56, 0.49, 0.4], [0.47, 0.38, 0.29], stain).map((v) => v * light)
  },
  /** Linen, threads over and under. */
  linen: (x, y) => {
    const wide = 7,
      u = x + 5 * (octaves(x / 300, y / 90, 5, 2) - 0.5),
      v = y + 5 * (octaves(x / 90, y / 300, 9, 2) - 0.5)
    const column = Math.floor(u / wide),
      row = Math.floor(v / wide),
      over = (column + row) % 2 === 0
    const across = over ? Math.abs(u / wide - column - 0.5) : Math.abs(v / wide - row - 0.5),
      along = over ? Math.abs(v / wide - row - 0.5) : Math.abs(u / wide - column - 0.5)
    const thread =
      0.86 + 0.28 * (hash(over ? column : row, over ? 1 : 2, 13) - 0.5) + 0.16 * (noise(x / 4, y / 4, 19) - 0.5)
    const round = Math.sqrt(Math.max(0, 1 - 3.2 * across * across)) * (1 - 0.9 * along * along)
    const light = thread * (0.45 + 0.6 * round) * (1.06 - 0.3 * Math.hypot(x / WIDTH - 0.4, y / HEIGHT - 0.35))
    return [0.6 * light, 0.54 * light, 0.44 * light]
  },
}
const encoded = (v) => 255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)

for (const [name, colour] of Object.entries(PICTURES)) {
  const data = Buffer.alloc(WIDTH * HEIGHT * 3)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i += 3) {
      // Half a level of noise, so that what falls off softly does not fall in steps.
      const dither = hash(x, y, 1) - 0.5
      colour(x + 0.5, y + 0.5).forEach((v, c) => {
        data[i + c] = Math.round(Math.min(255, Math.max(0, encoded(Math.min(1, Math.max(0, v))) + dither)))
      })
    }
  const { size } = await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .jpeg({ quality: 93, mozjpeg: true })
    .toFile(new URL(`${name}.jpg`, import.meta.url).pathname)
  console.log(`${name}.jpg ${Math.round(size / 1024)} KB`)
}
