/** Spot: inside a circle of influence, what resembles the colour, tone and local texture at its centre. */
import { colourSpot as colourSpotStep, type ColourSpotFields } from '../steps/colourSpot'
import { labRow } from '../colour/labRow'
import { emptyMatte, type Picture, words } from '../raster/picture'
import { type Finder } from './finder'

/**
 * The colour compared is the mean of 3×3 pixels. The texture is the variation of L* in the calmest of the four squares of 4×4 that have
 * the pixel in a corner, so that beside an edge a surface keeps its own texture (the windows of Kuwahara et al. 1976).
 */
const REACH = 3,
  ROWS = 2 * REACH + 1
/** How much a difference in texture counts beside one in colour. */
const TEXTURE_WEIGHT = 3
/** As far as this share of the spread a difference does not count at all. */
const FULL = 0.5
const CHECK_ROWS = 64

export const colourSpot: Finder<'colourSpot', ColourSpotFields> = {
  ...colourSpotStep,
  find(scene, { at: [cx, cy], radius, core, spread, sample }, context) {
    const matte = emptyMatte(scene),
      { width, height, data } = matte
    const px = Math.floor(cx),
      py = Math.floor(cy)
    if (px < 0 || py < 0 || px >= width || py >= height || radius <= 0) return matte
    const picture = scene.picture(sample),
      alpha = words(picture)
    const centre = describe(picture, px, py)
    if (alpha[py * width + px] >>> 24 === 0) return matte
    const left = Math.max(0, Math.floor(cx - radius)),
      right = Math.min(width, Math.ceil(cx + radius)),
      top = Math.max(0, Math.floor(cy - radius)),
      bottom = Math.min(height, Math.ceil(cy + radius))
    const full = spread * FULL,
      none = Math.max(full + 1e-6, spread * (2 - FULL)),
      inner = radius * core
    const local = new LocalColours(picture, left, right)
    for (let y = top; y < bottom; y++) {
      if ((y - top) % CHECK_ROWS === 0) context.check((y - top) / (bottom - top))
      local.moveTo(y)
      const dy = y + 0.5 - cy
      for (let x = left; x < right; x++) {
        const dx = x + 0.5 - cx,
          far = Math.sqrt(dx * dx + dy * dy)
        if (far >= radius || alpha[y * width + x] >>> 24 === 0) continue
        const unlike = local.difference(x, centre)
        if (unlike >= none) continue
        const like = unlike <= full ? 1 : smoothStep((none - unlike) / (none - full))
        data[y * width + x] = 255 * like * (far <= inner ? 1 : smoothStep((radius - far) / (radius - inner))) + 0.5
      }
    }
    return matte
  },
}

const smoothStep = (t: number): number => t * t * (3 - 2 * t)

interface Looks {
  readonly L: number
  readonly a: number
  readonly b: number
  /** Standard deviation of L* around it. */ readonly texture: number
}

function describe(picture: Picture, x: number, y: number): Looks {
  const local = new LocalColours(picture, x, x + 1)
  local.moveTo(y)
  return local.looks(x)
}

/** Mean colours and textures around the pixels of a row, from sums over columns; at the border fewer pixels count. */
class LocalColours {
  private readonly from: number
  private readonly count: number
  private readonly pixels: Uint32Array
  /** The rows around, by row modulo their number. */
  private readonly rows: { L: Float32Array; a: Float32Array; b: Float32Array }[]
  private readonly near: { L: Float32Array; a: Float32Array; b: Float32Array }
  /** L* and its square, summed over the rows from REACH above to here, and from here to REACH below. */
  private readonly tones: { sum: Float32Array; squares: Float32Array; rows: number }[]
  private nearRows = 0
  private next = -1

  constructor(
    private readonly picture: Picture,
    left: number,
    right: number,
  ) {
    this.from = Math.max(0, left - REACH)
    this.count = Math.min(picture.width, right + REACH) - this.from
    this.pixels = words(picture)
    const row = () => new Float32Array(this.count),
      lab = () => ({ L: row(), a: row(), b: row() })
    this.rows = Array.from({ length: ROWS }, lab)
    this.near = lab()
    this.tones = [0, 1].map(() => ({ sum: row(), squares: row(), rows: 0 }))
  }

  /** Rows are visited downwards, one after the other. */
  moveTo(y: number): void {
    const { width, height } = this.picture,
      { near } = this,
      first = (n: number) => Math.max(0, y - n),
      last = (n: number) => Math.min(height - 1, y + n)
    if (this.next < 0) this.next = first(REACH)
    for (; this.next <= last(REACH); this.next++) {
      const { L, a, b } = this.rows[this.next % ROWS]
      labRow(this.pixels, this.next * width + this.from, this.count, L, a, b)
    }
    for (const sums of [near.L, near.a, near.b]) sums.fill(0)
    for (let n = first(1); n <= last(1); n++) {
      const row = this.rows[n % ROWS]
      addRow(near.L, row.L)
      addRow(near.a, row.a)
      addRow(near.b, row.b)
    }
    this.nearRows = last(1) - first(1) + 1
    for (const [tone, from, to] of [
      [this.tones[0], first(REACH), y],
      [this.tones[1], y, last(REACH)],
    ] as const) {
      tone.sum.fill(0)
      tone.squares.fill(0)
      for (let n = from; n <= to; n++) addTones(tone.sum, tone.squares, this.rows[n % ROWS].L)
      tone.rows = to - from + 1
    }
  }

  looks(x: number): Looks {
    const { near, count } = this,
      i = x - this.from
    const from = Math.max(0, i - 1),
      to = Math.min(count - 1, i + 1),
      n = this.nearRows * (to - from + 1)
    let L = 0,
      a = 0,
      b = 0
    for (let k = from; k <= to; k++) {
      L += near.L[k]
      a += near.a[k]
      b += near.b[k]
    }
    return { L: L / n, a: a / n, b: b / n, texture: this.texture(i) }
  }

  private texture(i: number): number {
    const left = Math.max(0, i - REACH),
      right = Math.min(this.count - 1, i + REACH)
    let least = Infinity
    for (const tone of this.tones) least = Math.min(least, variance(tone, left, i), variance(tone, i, right))
    return Math.sqrt(Math.max(0, least))
  }

  /** How unlike a pixel of the row is, CIELAB units. */
  difference(x: number, to: Looks): number {
    const { L, a, b, texture } = this.looks(x)
    const dl = L - to.L,
      da = a - to.a,
      db = b - to.b,
      dt = TEXTURE_WEIGHT * (texture - to.texture)
    return Math.sqrt(dl * dl + da * da + db * db + dt * dt)
  }
}

function addRow(sums: Float32Array, row: Float32Array): void {
  for (let i = 0; i < row.length; i++) sums[i] += row[i]
}
function addTones(sum: Float32Array, squares: Float32Array, row: Float32Array): void {
  for (let i = 0; i < row.length; i++) {
    sum[i] += row[i]
    squares[i] += row[i] * row[i]
  }
}
function variance(
  { sum, squares, rows }: { sum: Float32Array; squares: Float32Array; rows: number },
  from: number,
  to: number,
): number {
  let s = 0,
    q = 0
  for (let k = from; k <= to; k++) {
    s += sum[k]
    q += squares[k]
  }
  const n = rows * (to - from + 1)
  return q / n - (s / n) ** 2
}
