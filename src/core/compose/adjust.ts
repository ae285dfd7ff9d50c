/** An adjustment or effect, row by row on the buffer it finds. */
import { type KernelStack } from '../kernels'
import { type Size } from '../raster/picture'
import { type RowWork, type Surround } from './adjustments/adjustment'
import { adjustmentOf } from './adjustments/registry'
import { blurDisc, blurGaussian } from './blur'
import { coverRows } from './coverRows'
import { facingOf } from './facing'
import { type Fetch } from './fetch'
import { modeNumber } from './modes'
import { leastAround, type LeastRow } from './least'
import { mirrored, type MirroredRow, type MirrorLine } from './mirror'
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

interface Around {
  /** What lies round about, blurred. */
  blurred(reach: number, kind: 'gaussian' | 'disc', form: Form): Float32Array
  least(reach: number, per: readonly number[], form: Form): LeastRow
  mirrored(line: MirrorLine, form: Form): MirroredRow
  facing(sigma: number, towards: readonly [number, number]): Float32Array
}

/** @param lower gives pixels of any region of all that lies below, or of what lies at the bottom */
export const aroundOf = (room: Room, region: Region, canvas: Size, lower: (all: boolean) => Fetch): Around => ({
  blurred: (reach, kind, form) => blurred(room, lower(true), region, canvas, reach, kind, form),
  least: (reach, per, form) =>
    leastAround(room.stack, inForm(room.stack, lower(true), form), region, reach, canvas, per),
  mirrored: (line, form) => mirroredBelow(room, lower(false), region, canvas, line, form),
  facing: (sigma, towards) => facingOf(room, lower(true), region, sigma, towards, canvas),
})

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
  const form: Form = { table, straight, rooted: !wantsLinear },
    surround: Surround = {
      gaussian: (sigma) => around.blurred(sigma, 'gaussian', form),
      disc: (radius) => around.blurred(radius, 'disc', form),
      least: (reach, per) => around.least(reach, per, form),
      mirrored: (line) => around.mirrored(line, form),
      facing: (sigma, dx, dy) => around.facing(sigma, [dx, dy]),
    }
  const kernel = adjustment.kernel?.(node.adjustment, region, canvas, surround),
    work: RowWork | null = adjustment.rows?.(node.adjustment, region, canvas, surround) ?? null
  if (!work && !kernel) return
  const beside = kernel?.table,
    floats = !beside ? 0 : beside instanceof Float32Array ? beside.length : beside.floats,
    own = floats ? stack.take(4 * floats) : 0,
    whole = mode === NORMAL && node.opacity === 1 && !covers
  if (beside instanceof Float32Array) stack.floats(own, floats).set(beside)
  for (let y = 0; y < height; y++) {
    if (covers && !covers(y)) continue
    const row = at + y * width * PIXEL_BYTES
    run.convertRow(row, rowAt, width, straight || convert, !straight && convert, table, CURVE_STEPS, !wantsLinear)
    if (beside && !(beside instanceof Float32Array)) beside.fill(stack.floats(own, floats), y)
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

/** What is fetched, in the kind of values that are wanted. */
const inForm =
  (stack: KernelStack, gather: Fetch, { table, rooted }: Form): Fetch =>
  (part, at) => {
    gather(part, at)
    if (table) stack.run.convertRow(at, at, part.width * part.height, true, true, table, CURVE_STEPS, rooted)
  }
/** Straight colour, where that is wanted. */
function straightened(values: Float32Array, { straight }: Form): Float32Array {
  if (straight)
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

/** What lies below a node, blurred: 4 floats a pixel of the region. Far-reaching blurs look at a coarser level, whose few pixels say all they keep. */
const blurred = (
  room: Room,
  gather: Fetch,
  region: Region,
  canvas: Size,
  reach: number,
  kind: 'gaussian' | 'disc',
  form: Form,
): Float32Array =>
  straightened(
    (kind === 'gaussian' ? blurGaussian : blurDisc)(room, inForm(room.stack, gather, form), region, reach, canvas),
    form,
  )

/** What `gather` gives, mirrored about a horizon. */
function mirroredBelow(
  room: Room,
  gather: Fetch,
  region: Region,
  canvas: Size,
  line: MirrorLine,
  form: Form,
): MirroredRow {
  const rowOf = mirrored(room, inForm(room.stack, gather, form), region, canvas, line)
  return (y) => straightened(rowOf(y), form)
}
