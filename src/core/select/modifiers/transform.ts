import { transform as transformStep } from '../../steps/modifiers/transform'
import { withRoom } from '../../kernels'
import { type Affine, apply, inverse } from '../../raster/affine'
import { boundsOfPoints } from '../../raster/bounds'
import { type Box } from '../../raster/content'
import { emptyMatte, type Matte, type Size } from '../../raster/picture'
import { isShift } from '../../raster/sampleRow'
import { boundsOf } from '../../raster/tally'
import { type Modifier } from '../finder'

/** By whole px: rows are copied. */
function shifted({ width, height, data }: Matte, dx: number, dy: number, out: Matte): Matte {
  if (Math.abs(dx) >= width) return out
  for (let y = Math.max(0, dy); y < Math.min(height, height + dy); y++) {
    const from = (y - dy) * width
    out.data.set(
      data.subarray(from + Math.max(0, -dx), from + Math.min(width, width - dx)),
      y * width + Math.max(0, dx),
    )
  }
  return out
}

/** Coverage falls off between the middles of px: so far beyond what is covered, px. And as far around a px of what comes of it. */
const BEYOND = 0.5,
  BESIDE = 1

/** Where a box comes to lie within a size, whole px; null where that is beyond it. */
function landsOn(box: Box, matrix: Affine, size: Size): Box | null {
  const across = [box.x - BEYOND, box.x + box.width + BEYOND],
    down = [box.y - BEYOND, box.y + box.height + BEYOND],
    sides = across.flatMap((x) => down.map((y) => apply(matrix, x, y))),
    [left, top, right, bottom] = boundsOfPoints(sides),
    x = Math.max(0, Math.floor(left - BESIDE)),
    y = Math.max(0, Math.floor(top - BESIDE)),
    width = Math.min(size.width, Math.ceil(right + BESIDE)) - x,
    height = Math.min(size.height, Math.ceil(bottom + BESIDE)) - y
  return width > 0 && height > 0 ? { x, y, width, height } : null
}

/** Moves, scales and turns the selection without its pixels: [a, b, c, d, e, f], x' = a·x + c·y + e, y' = b·x + d·y + f. What a flat matrix would flatten is nothing. */
export const transform: Modifier<'transform', { matrix: readonly [number, number, number, number, number, number] }> = {
  ...transformStep,
  modify(matte, params) {
    const out = emptyMatte(matte)
    let back
    try {
      back = inverse(params.matrix)
    } catch {
      return out
    }
    if (isShift(back)) return shifted(matte, -Math.round(back[4]), -Math.round(back[5]), out)
    const from = boundsOf(matte),
      to = from && landsOn(from, params.matrix, matte)
    if (!to) return out
    const [a, b, c, d, e, f] = back
    return withRoom((stack) => {
      // What is selected, with an empty px all round.
      const stride = from.width + 2,
        source = stack.take(stride * (from.height + 2)),
        bytes = stack.bytes(source, stride * (from.height + 2)).fill(0)
      for (let y = 0; y < from.height; y++) {
        const start = (from.y + y) * matte.width + from.x
        bytes.set(matte.data.subarray(start, start + from.width), (y + 1) * stride + 1)
      }
      const row = stack.take(to.width)
      for (let y = to.y; y < to.y + to.height; y++) {
        const u = a * (to.x + 0.5) + c * (y + 0.5) + e - 0.5 - from.x,
          v = b * (to.x + 0.5) + d * (y + 0.5) + f - 0.5 - from.y
        stack.run.coverageRow(source, from.width, from.height, u, v, a, b, row, to.width)
        out.data.set(stack.bytes(row, to.width), y * matte.width + to.x)
      }
      return out
    })
  },
}
