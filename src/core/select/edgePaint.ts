/**
 * Edge paint: a brush that stops at edges under it. Each dab covers what hangs together with its middle and is of its colour there.
 * Source: Adams and Bischof, "Seeded region growing", IEEE PAMI 16 (1994), within each dab.
 */
import { edgePaint as edgePaintStep, type EdgePaintFields } from '../steps/edgePaint'
import { labRow } from '../colour/labRow'
import { forEachDab } from '../raster/brush'
import { type Stroke } from '../raster/stroke'
import { emptyMatte, type Matte, words } from '../raster/picture'
import { STROKE_DEFAULTS } from '../steps/paint'
import { type Context, type Finder, type Scene } from './finder'
import { type Sample } from '../steps/step'

/** The difference in colour a dab reaches over, CIELAB units, at sensitivity 1 and how much more at 0; beyond it coverage falls off within this share more. */
const LEAST = 3,
  MOST = 42,
  FALLS = 0.35
/** Dabs are this share of the size apart. */
const SPACING = 0.3

export const edgePaint: Finder<'edgePaint', EdgePaintFields> = {
  ...edgePaintStep,
  find(scene, params, context) {
    // While the last stroke is drawn, the ones before it stay as they are.
    const before = params.strokes.slice(0, -1),
      last = params.strokes.slice(-1)
    const key = `edgePaint ${scene.identity(params.sample)} ${params.sensitivity} ${JSON.stringify(before)}`,
      known = before.length ? context.memory.get<Matte>(key) : undefined
    const matte = known ? { ...known, data: known.data.slice() } : emptyMatte(scene)
    if (!known && before.length) {
      paintAll(matte, scene, { ...params, strokes: before }, context)
      context.memory.set(key, { ...matte, data: matte.data.slice() }, matte.data.byteLength)
    }
    paintAll(matte, scene, { ...params, strokes: last }, context)
    return matte
  },
}

function paintAll(
  matte: Matte,
  scene: Scene,
  { strokes, sensitivity, sample }: EdgePaintFields & { sample: Sample },
  context: Context,
): void {
  const pixels = words(scene.picture(sample)),
    limit = LEAST + (MOST - LEAST) * (1 - sensitivity) ** 1.5
  strokes.forEach((written, k) => {
    const stroke = { ...STROKE_DEFAULTS, ...written }
    let dabs = 0
    forEachDab({ ...stroke, spacing: Math.max(SPACING, stroke.spacing) }, (x, y, size) => {
      if (dabs++ % 8 === 0) context.check(k / strokes.length)
      dab(matte, pixels, x, y, size / 2, limit, stroke)
    })
  })
}

/** One dab: a flood from its middle, inside its circle. */
function dab(
  { width, height, data }: Matte,
  pixels: Uint32Array,
  cx: number,
  cy: number,
  radius: number,
  limit: number,
  { hardness, strength, tip, erase }: Stroke,
): void {
  const left = Math.max(0, Math.floor(cx - radius)),
    top = Math.max(0, Math.floor(cy - radius)),
    right = Math.min(width, Math.ceil(cx + radius)),
    bottom = Math.min(height, Math.ceil(cy + radius))
  const w = right - left,
    h = bottom - top,
    mx = Math.floor(cx),
    my = Math.floor(cy)
  if (w <= 0 || h <= 0 || mx < left || my < top || mx >= right || my >= bottom) return
  const L = new Float32Array(w * h),
    a = new Float32Array(w * h),
    b = new Float32Array(w * h)
  for (let y = 0; y < h; y++)
    labRow(pixels, (top + y) * width + left, w, L.subarray(y * w), a.subarray(y * w), b.subarray(y * w))
  let l0 = 0,
    a0 = 0,
    b0 = 0,
    n = 0
  for (let y = Math.max(0, my - top - 1); y <= Math.min(h - 1, my - top + 1); y++)
    for (let x = Math.max(0, mx - left - 1); x <= Math.min(w - 1, mx - left + 1); x++) {
      const i = y * w + x
      l0 += L[i]
      a0 += a[i]
      b0 += b[i]
      n++
    }
  l0 /= n
  a0 /= n
  b0 /= n
  const seen = new Uint8Array(w * h),
    stack = new Int32Array(w * h),
    fall = limit * FALLS
  let count = 0
  stack[count++] = (my - top) * w + mx - left
  seen[stack[0]] = 1
  while (count > 0) {
    const i = stack[--count],
      x = i % w,
      y = (i / w) | 0,
      dx = Math.abs(left + x + 0.5 - cx),
      dy = Math.abs(top + y + 0.5 - cy),
      away = tip === 'round' ? Math.hypot(dx, dy) : Math.max(dx, dy)
    if (away > radius + 0.5) continue
    const unlike = Math.hypot(L[i] - l0, a[i] - a0, b[i] - b0)
    if (unlike > limit + fall) continue
    const coverage =
        255 *
        strength *
        Math.min(1, Math.max(0, (radius + 0.5 - away) / Math.max(1, radius * (1 - hardness)))) *
        Math.min(1, (limit + fall - unlike) / fall),
      o = (top + y) * width + left + x
    if (erase) data[o] = Math.min(data[o], 255 - coverage + 0.5)
    else if (coverage > data[o]) data[o] = coverage + 0.5
    if (unlike > limit) continue // covered a little, and not passed on
    if (x > 0 && !seen[i - 1]) {
      seen[i - 1] = 1
      stack[count++] = i - 1
    }
    if (x + 1 < w && !seen[i + 1]) {
      seen[i + 1] = 1
      stack[count++] = i + 1
    }
    if (y > 0 && !seen[i - w]) {
      seen[i - w] = 1
      stack[count++] = i - w
    }
    if (y + 1 < h && !seen[i + w]) {
      seen[i + w] = 1
      stack[count++] = i + w
    }
  }
}
