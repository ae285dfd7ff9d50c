/** An adjustment or effect, row by row on the buffer it finds. */
import { type KernelStack } from '../kernels'
import { type Size } from '../raster/picture'
import { type RowWork, type Surround } from './adjustments/adjustment'
import { adjustmentOf } from './adjustments/registry'
import { blurDisc, blurGaussian } from './blur'
import { coverRows } from './coverRows'
import { modeNumber } from './modes'
import { type AdjustNode } from './nodes'
import { ATOP } from './operator'
import { type Region } from './region'
import { PIXEL_BYTES, type Room } from './room'
import { type Settings } from './settings'
import { CURVE_STEPS } from './tables'
import { type ToneTables } from './toneTables'

const NORMAL = modeNumber('normal')

/** The kind of values that are wanted: sent through a table (0: as they are), made straight, by the root of the value. */
interface Form {
  readonly table: number
  readonly straight: boolean
  readonly rooted: boolean
}
export type Around = (reach: number, kind: 'gaussian' | 'disc', form: Form) => Float32Array

/** Changes what lies at `at` as the node says. @param around gives what lies round about, blurred */
export function adjust(
  room: Room,
  tones: ToneTables,
  node: AdjustNode,
  region: Region,
  at: number,
  { linear = false, canvas }: Settings,
  around: Around,
): void {
  const adjustment = adjustmentOf(node.adjustment),
    { width, height } = region,
    { stack, tables, row: rowAt, cover } = room,
    { run } = stack
  const covers = coverRows(room, node.mask, region),
    mode = modeNumber(node.blend ?? 'normal')
  /** Row `y` of the result lies at `from`; it goes in as far as mask and opacity let it. */
  const putIn = (y: number, from: number) => {
    const row = at + y * width * PIXEL_BYTES
    if (mode === NORMAL) run.mixRow(row, from, covers ? cover : 0, node.opacity, width)
    else run.compositeRow(row, from, covers ? cover : 0, node.opacity, width, mode, ATOP)
  }
  if (adjustment.channels) {
    const curves = tones.of(node.adjustment, linear)
    if (!curves) return
    const whole = mode === NORMAL && node.opacity === 1 && !covers
    for (let y = 0; y < height; y++) {
      if (covers && !covers(y)) continue
      const row = at + y * width * PIXEL_BYTES
      run.throughTables(row, whole ? row : rowAt, width, curves[0], curves[1], curves[2], CURVE_STEPS, linear)
      if (!whole) putIn(y, rowAt)
    }
    return
  }
  const wantsLinear = adjustment.values === 'blending' ? linear : adjustment.values === 'linear'
  const convert = wantsLinear !== linear,
    straight = !adjustment.premultiplied
  const table = !convert ? 0 : wantsLinear ? tables.toLinear : tables.toEncoded,
    back = !convert ? 0 : wantsLinear ? tables.toEncoded : tables.toLinear
  const surround: Surround = {
    gaussian: (sigma) => around(sigma, 'gaussian', { table, straight, rooted: !wantsLinear }),
    disc: (radius) => around(radius, 'disc', { table, straight, rooted: !wantsLinear }),
  }
  const kernel = adjustment.kernel?.(node.adjustment),
    work: RowWork | null = adjustment.rows?.(node.adjustment, region, canvas, surround) ?? null
  if (!work && !kernel) return
  const own = kernel?.table ? stack.take(kernel.table.byteLength) : 0,
    whole = mode === NORMAL && node.opacity === 1 && !covers
  if (kernel?.table) stack.floats(own, kernel.table.length).set(kernel.table)
  for (let y = 0; y < height; y++) {
    if (covers && !covers(y)) continue
    const row = at + y * width * PIXEL_BYTES
    run.convertRow(row, rowAt, width, straight || convert, !straight && convert, table, CURVE_STEPS, !wantsLinear)
    kernel?.run(run, rowAt, width, own)
    if (work) {
      const values = stack.floats(rowAt, width * 4)
      work(values, y)
      if (straight)
        for (let i = 0; i < values.length; i++) {
          const v = values[i]
          values[i] = v > 0 ? (v < 1 ? v : 1) : 0
        }
    }
    run.convertRow(
      rowAt,
      whole ? row : rowAt,
      width,
      !straight && convert,
      straight || convert,
      back,
      CURVE_STEPS,
      wantsLinear,
    )
    if (!whole) putIn(y, rowAt)
  }
  if (own) stack.release(own)
}

/** What lies below a node, blurred: 4 floats a pixel of the region. Far-reaching blurs look at a coarser level, whose few pixels say all they keep. */
export function blurred(
  stack: KernelStack,
  gather: (part: Region) => Float32Array,
  region: Region,
  canvas: Size,
  reach: number,
  kind: 'gaussian' | 'disc',
  form: Form,
): Float32Array {
  const fetch = (part: Region): Float32Array => {
    const found = gather(part)
    if (!form.table) return found
    const place = stack.take(found.byteLength)
    stack.floats(place, found.length).set(found)
    stack.run.convertRow(place, place, found.length / 4, true, true, form.table, CURVE_STEPS, form.rooted)
    found.set(stack.floats(place, found.length))
    stack.release(place)
    return found
  }
  const values = (kind === 'gaussian' ? blurGaussian : blurDisc)(stack, fetch, region, reach, canvas)
  if (form.straight)
    for (let i = 0; i < values.length; i += 4) {
      const a = values[i + 3]
      if (a > 0) {
        values[i] /= a
        values[i + 1] /= a
        values[i + 2] /= a
      }
    }
  return values
}
