/** Painted layers as pixels. */
import { type DecodedPicture } from '@/core/compose/nodes'
import { channelsOf, fillRows } from '@/core/compose/fill'
import { type Affine, apply, compose, inverse, translation } from '@/core/raster/affine'
import { picturePyramid } from '@/core/raster/levels'
import { emptyMatte, type Matte, type Picture } from '@/core/raster/picture'
import { boundsOf } from '@/core/raster/tally'
import { isShift, sampleCoverageRow } from '@/core/raster/sampleRow'
import { type Context } from '@/core/select/finder'
import { type PaintItem, type PaintLayer } from '@/document/records'

/** The part of a layer that has paint on it. */
interface Sheet extends Picture {
  readonly x: number
  readonly y: number
}
export interface PaintedPicture extends DecodedPicture {
  readonly x: number
  readonly y: number
}

/** A matte whose upper left corner lies at (x, y) of the layer. */
interface Laid {
  readonly matte: Matte
  readonly x: number
  readonly y: number
}
/** Paint beyond this many pixels is not drawn: a layer flattened and blown up again has no picture worth the memory. */
const MOST_PIXELS = 150e6

/** Where an item's area covers the layer, wherever that is: a layer that was moved can be painted on beside where it was. */
function onLayer(area: Matte, toLayer: Affine): Laid | null {
  const [a, b, c, d, e, f] = toLayer
  if (isShift([a, b, c, d, e, f])) return { matte: area, x: Math.round(e), y: Math.round(f) }
  const box = boundsOf(area)
  let back: Affine
  try {
    back = inverse(toLayer)
  } catch {
    return null
  }
  if (!box) return null
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ].map(([x, y]) => apply(toLayer, x, y))
  const xs = corners.map(([x]) => x),
    ys = corners.map(([, y]) => y)
  const x = Math.floor(Math.min(...xs)) - 1,
    y = Math.floor(Math.min(...ys)) - 1,
    width = Math.ceil(Math.max(...xs)) + 1 - x,
    height = Math.ceil(Math.max(...ys)) + 1 - y
  if (!(width * height <= MOST_PIXELS)) return null
  const matte = emptyMatte({ width, height }),
    row = new Float32Array(width),
    map = compose(back, translation(x, y))
  for (let r = 0; r < height; r++)
    if (sampleCoverageRow(area, map, r, row))
      for (let k = 0, i = r * width; k < width; k++, i++) matte.data[i] = row[k] * 255 + 0.5
  return { matte, x, y }
}

function widened(sheet: Sheet | null, box: { x: number; y: number; width: number; height: number }): Sheet {
  if (!sheet) return { ...box, data: new Uint8ClampedArray(box.width * box.height * 4) }
  const x = Math.min(sheet.x, box.x),
    y = Math.min(sheet.y, box.y),
    width = Math.max(sheet.x + sheet.width, box.x + box.width) - x,
    height = Math.max(sheet.y + sheet.height, box.y + box.height) - y
  const data = new Uint8ClampedArray(width * height * 4)
  for (let row = 0; row < sheet.height; row++)
    data.set(
      sheet.data.subarray(row * sheet.width * 4, (row + 1) * sheet.width * 4),
      ((sheet.y - y + row) * width + sheet.x - x) * 4,
    )
  return { x, y, width, height, data }
}

/** Lays one item over what was painted before: source-over, or destination-out where it rubs out. */
function lay(before: Sheet | null, item: PaintItem, { matte: coverage, x: offX, y: offY }: Laid): Sheet | null {
  const covered = boundsOf(coverage)
  if (!covered || (item.erase && !before)) return before
  const box = { ...covered, x: covered.x + offX, y: covered.y + offY }
  const sheet = item.erase ? { ...before!, data: before!.data.slice() } : widened(before, box)
  const write = fillRows(item.fill, [1, 0, 0, 1, 0, 0]),
    colour = new Float32Array(sheet.width * 4)
  const flat = item.fill.kind === 'colour' ? channelsOf(item.fill.colour) : null
  const top = Math.max(sheet.y, box.y),
    bottom = Math.min(sheet.y + sheet.height, box.y + box.height),
    left = Math.max(sheet.x, box.x),
    right = Math.min(sheet.x + sheet.width, box.x + box.width)
  for (let y = top; y < bottom; y++) {
    if (!flat && !item.erase) write!(colour, sheet.x, y, 1)
    for (
      let x = left,
        i = ((y - sheet.y) * sheet.width + left - sheet.x) * 4,
        c = (left - sheet.x) * 4,
        m = (y - offY) * coverage.width + left - offX;
      x < right;
      x++, i += 4, c += 4, m++
    ) {
      if (coverage.data[m] === 0) continue
      const share = (coverage.data[m] / 255) * item.strength,
        { data } = sheet,
        before = data[i + 3] / 255
      if (item.erase) {
        data[i + 3] *= 1 - share
        continue
      }
      const alpha = flat ? share : share * colour[c + 3],
        under = (1 - alpha) * before,
        after = alpha + under
      if (after <= 0) continue
      for (let k = 0; k < 3; k++)
        data[i + k] = ((flat ? flat[k] : colour[c + k]) * share * 255 + data[i + k] * under) / after
      data[i + 3] = after * 255
    }
  }
  return sheet
}

/**
 * The picture of a painted layer, cut to where there is paint; null where there is none. What lies below the last item is remembered, so that painting
 * on goes on from there. @param areaOf the matte of an item's area, in its own frame
 */
export function paintedPicture(
  layer: PaintLayer,
  areaOf: (item: PaintItem) => Matte,
  context: Context,
  allocate: (bytes: number) => ArrayBufferLike,
): PaintedPicture | null {
  const items = layer.items.filter((item) => item.strength > 0)
  const keyOf = (count: number) =>
    `painted ${layer.width}×${layer.height} ${JSON.stringify(items.slice(0, count).map(({ fill, erase, strength, area, toLayer }) => [fill, erase, strength, toLayer, area.recipe, area.frame, area.scene]))}`
  const below = items.length > 1 ? keyOf(items.length - 1) : ''
  const known = below ? context.memory.get<{ sheet: Sheet | null }>(below) : undefined
  let sheet: Sheet | null = known?.sheet ?? null
  for (let i = known ? items.length - 1 : 0; i < items.length; i++) {
    context.check(i / items.length)
    if (i === items.length - 1 && below && !known) context.memory.set(below, { sheet }, sheet?.data.byteLength ?? 64)
    const laid = onLayer(areaOf(items[i]), items[i].toLayer)
    if (laid) sheet = lay(sheet, items[i], laid)
  }
  if (!sheet) return null
  const { width, height } = sheet,
    data = new Uint8ClampedArray(allocate(width * height * 4))
  data.set(sheet.data)
  return { levels: picturePyramid({ width, height, data }, false, allocate), opaque: false, x: sheet.x, y: sheet.y }
}
