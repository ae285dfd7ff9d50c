/**
 * A matte's outline that, filled again, is the matte at half coverage. Curves where those say it; where things are about as thin as a pixel,
 * contours from pixel to pixel, pushed out where a pixel inside was filled by less than half, and in where one outside was by more.
 */
import { type Matte } from '../raster/picture'
import { fillPolygons, type Point } from './fill'
import { fitOutline } from './fitCurves'
import { flattened, pointWritten, type Subpath } from './path'
import { type Contour, traceMatte } from './trace'

const HALF = 127.5
/** The share of pixels inside that may differ. */
const GOOD = 8e-4
const MOST_ROUNDS = 12
/** A value is moved on by this, and at least from so far off one half; its neighbours across the contour come nearer to one half. */
const PUSH = 2,
  LEAST = 24,
  YIELD = 0.6

/** @param tolerance px that curves may leave the contour by @param check is called now and then with the progress (0-1) */
export function faithfulOutline(
  matte: Matte,
  tolerance: number,
  check: (progress: number) => void = () => {},
): Subpath[] {
  const first = traceMatte(matte, (share) => check(0.1 * share)),
    curves = first.map((contour, i) => {
      check(0.1 + (0.2 * i) / first.length)
      return written(fitOutline(contour, tolerance))
    }),
    rings: (readonly Point[])[] = curves.map((curve) => flattened([curve])[0] ?? []),
    pushed = new Set<number>(),
    field = Float32Array.from(matte.data)
  const inside = matte.data.reduce((sum, v) => sum + (v > HALF ? 1 : 0), 0)
  let contours = first
  for (let round = 0; round < MOST_ROUNDS; round++) {
    check(0.3 + (0.7 * round) / MOST_ROUNDS)
    const wrong = differing(matte, fillPolygons(matte, rings, 'nonzero'))
    if (wrong.length <= GOOD * inside) break
    const at = owners(contours, matte)
    for (const i of wrong) {
      for (const k of near(at, i, matte)) pushed.add(k)
      push(field, matte, i)
    }
    // The same pixels are inside, so the contours are the same ones, in the same order.
    contours = traceMatte(matte, () => {}, field)
    for (const k of pushed) rings[k] = pointsOf(contours[k])
  }
  return curves.map((curve, k) =>
    pushed.has(k) ? { closed: true, nodes: rings[k].map((point) => ({ at: point })) } : curve,
  )
}

/** What is judged is what will be written, to the last decimal. */
const written = ({ closed, nodes }: Subpath): Subpath => ({
  closed,
  nodes: nodes.map(({ at, into, out }) => ({
    at: pointWritten(at),
    ...(into && { into: pointWritten(into) }),
    ...(out && { out: pointWritten(out) }),
  })),
})
const pointsOf = (contour: Contour): Point[] =>
  Array.from({ length: contour.length / 2 }, (_, i) => pointWritten([contour[2 * i], contour[2 * i + 1]]))

/** Pixels that lie on the other side of one half. */
function differing({ data }: Matte, filled: Matte): number[] {
  const found: number[] = []
  for (let i = 0; i < data.length; i++) if (data[i] > HALF !== filled.data[i] > HALF) found.push(i)
  return found
}

/** Which contour passes through a pixel: its number from 1, the last one's where several do; 0: none. */
function owners(contours: readonly Contour[], { width, height }: Matte): Uint32Array {
  const at = new Uint32Array(width * height)
  contours.forEach((contour, k) => {
    for (let i = 0; i < contour.length; i += 2) {
      const x = Math.min(width - 1, Math.max(0, Math.floor(contour[i]))),
        y = Math.min(height - 1, Math.max(0, Math.floor(contour[i + 1])))
      at[y * width + x] = k + 1
    }
  })
  return at
}
function* near(at: Uint32Array, i: number, { width, height }: Matte): Generator<number> {
  const x = i % width,
    y = (i - x) / width
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
      const k = at[v * width + u]
      if (k) yield k - 1
    }
}

/** Gives a pixel more room: it lies further from one half, those on the other side nearer to it. Nobody changes sides. */
function push(field: Float32Array, { width, height, data }: Matte, i: number): void {
  const x = i % width,
    y = (i - x) / width,
    own = data[i] > HALF,
    off = (k: number) => Math.abs(field[k] - HALF)
  const put = (k: number, far: number) => (field[k] = data[k] > HALF ? HALF + far : HALF - far)
  put(i, Math.min(1e6, Math.max(LEAST, off(i)) * PUSH))
  for (const [u, v] of [
    [x - 1, y],
    [x + 1, y],
    [x, y - 1],
    [x, y + 1],
  ]) {
    const k = v * width + u
    if (u >= 0 && v >= 0 && u < width && v < height && data[k] > HALF !== own) put(k, Math.max(0.5, off(k) * YIELD))
  }
}
