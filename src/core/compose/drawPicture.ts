import { type Affine, apply, compose, translation } from '../raster/affine'
import { type Picture } from '../raster/picture'
import { isShift } from '../raster/sampleRow'
import { coverRows } from './coverRows'
import { areaLookedAt, MOST_LOOKED_AT, pickLevel, rowsTouched } from './mipLevel'
import { modeNumber } from './modes'
import { type PictureNode } from './nodes'
import { operatorOf } from './operator'
import { type Region } from './region'
import { PIXEL_BYTES, type Room } from './room'

/** @param empty nothing was drawn below it */
export function drawPicture(
  room: Room,
  node: PictureNode,
  region: Region,
  at: number,
  linear: boolean,
  empty: boolean,
): void {
  const { stack, tables, row: rowAt, bytes, cover } = room
  const { levels, opaque } = node.picture
  let source = pickLevel(levels.length, node.toCanvas, region)
  // Squeezed in one direction only, a region may look at very much of a picture: then a coarser level has to do.
  while (
    source &&
    !isShift(source.map) &&
    source.level < levels.length - 1 &&
    areaLookedAt(source.map, region) > MOST_LOOKED_AT
  )
    source = pickLevel(levels.length, node.toCanvas, region, source.level + 1)
  if (!source) return
  const picture = levels[source.level],
    { width } = region,
    { run } = stack
  if (picture.left || picture.top)
    source.map = compose(translation(-(picture.left ?? 0), -(picture.top ?? 0)), source.map)
  const rows = rowsTouched(picture, source.map, region),
    shift = isShift(source.map),
    fine = region.level === 0
  const shiftX = Math.round(source.map[4]),
    shiftY = Math.round(source.map[5])
  const from = shift ? Math.max(0, -shiftX) : 0,
    to = shift ? Math.min(width, picture.width - shiftX) : width
  if (to <= from) return
  const mode = modeNumber(node.blend ?? 'normal'),
    operator = operatorOf(node)
  const covers = coverRows(room, node.mask, region)
  const table = linear ? tables.linearOfByte : 0
  const placed = shift ? null : layOut(room, picture, opaque, source.map, region, table)
  if (!shift && !placed) return
  const sample =
    placed &&
    ((y: number) => {
      const { at: rect, left, top, width: across, height: down } = placed,
        [a, b, c, d, e, f] = source.map
      return (
        run.sampleRow(
          rect,
          (across + 4) * PIXEL_BYTES,
          across,
          down,
          a * 0.5 + c * (y + 0.5) + e - 0.5 - left,
          b * 0.5 + d * (y + 0.5) + f - 0.5 - top,
          a,
          b,
          rowAt,
          width,
          fine,
        ) !== 0
      )
    })
  const bare = empty && node.opacity === 1 && !node.atop
  for (let y = rows.from; y < rows.to; y++) {
    if (covers && !covers(y)) continue
    if (shift) {
      const row = y + shiftY
      if (row < 0 || row >= picture.height) continue
      const start = (row * picture.width + from + shiftX) * 4
      stack.bytes(bytes, (to - from) * 4).set(picture.data.subarray(start, start + (to - from) * 4))
      if (bare && !covers) {
        run.unpackRow(bytes, at + (y * width + from) * PIXEL_BYTES, to - from, opaque, table)
        continue
      }
      run.unpackRow(bytes, rowAt, to - from, opaque, table)
    } else if (!sample!(y)) continue
    run.compositeRow(
      at + (y * width + from) * PIXEL_BYTES,
      rowAt,
      covers ? cover + from * 4 : 0,
      node.opacity,
      to - from,
      mode,
      operator,
    )
  }
  if (placed) stack.release(placed.at)
}

/** The rectangle of a picture that a region looks at, as premultiplied floats with a rim of two empty pixels; null where it looks at none of it. */
function layOut(
  { stack }: Room,
  picture: Picture,
  opaque: boolean,
  map: Affine,
  region: Region,
  table: number,
): { at: number; left: number; top: number; width: number; height: number } | null {
  const corners = [
    [0, 0],
    [region.width, 0],
    [0, region.height],
    [region.width, region.height],
  ].map(([x, y]) => apply(map, x, y))
  const xs = corners.map(([x]) => x),
    ys = corners.map(([, y]) => y)
  const left = Math.max(0, Math.floor(Math.min(...xs)) - 3),
    top = Math.max(0, Math.floor(Math.min(...ys)) - 3),
    right = Math.min(picture.width, Math.ceil(Math.max(...xs)) + 3),
    bottom = Math.min(picture.height, Math.ceil(Math.max(...ys)) + 3)
  if (right <= left || bottom <= top) return null
  const width = right - left,
    height = bottom - top,
    stride = (width + 4) * PIXEL_BYTES
  const at = stack.take(stride * (height + 4)),
    row = stack.take(width * 4)
  stack.floats(at, (width + 4) * (height + 4) * 4).fill(0)
  for (let y = 0; y < height; y++) {
    const start = ((top + y) * picture.width + left) * 4
    stack.bytes(row, width * 4).set(picture.data.subarray(start, start + width * 4))
    stack.run.unpackRow(row, at + (y + 2) * stride + 2 * PIXEL_BYTES, width, opaque, table)
  }
  return { at, left, top, width, height }
}
