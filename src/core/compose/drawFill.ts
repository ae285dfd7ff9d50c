import { coverRows } from './coverRows'
import { fillRows } from './fill'
import { modeNumber } from './modes'
import { type FillNode } from './nodes'
import { operatorOf } from './operator'
import { type Region } from './region'
import { PIXEL_BYTES, type Room } from './room'
import { CURVE_STEPS } from './tables'

export function drawFill(room: Room, node: FillNode, region: Region, at: number, linear: boolean): void {
  const { stack, tables, row, cover } = room
  const write = fillRows(node.fill, node.toCanvas)
  if (!write) return
  const { width, height } = region,
    { run } = stack,
    size = 2 ** region.level
  const covers = coverRows(room, node.mask, region),
    mode = modeNumber(node.blend ?? 'normal'),
    operator = operatorOf(node)
  const even = node.fill.kind === 'colour'
  for (let y = 0; y < height; y++) {
    if (covers && !covers(y)) continue
    if (!even || y === 0 || covers) {
      write(stack.floats(row, width * 4), region.x, region.y + y, size)
      if (linear) run.convertRow(row, row, width, true, true, tables.toLinear, CURVE_STEPS, false)
    }
    run.compositeRow(at + y * width * PIXEL_BYTES, row, covers ? cover : 0, node.opacity, width, mode, operator)
  }
}
