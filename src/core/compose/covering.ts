/** What need not be drawn: whatever lies below something that hides it, and one layer that can be copied as it is. */
import { apply, isIdentity } from '../raster/affine'
import { adjustmentOf } from './adjustments/registry'
import { pickLevel } from './mipLevel'
import { type Node, type PictureNode } from './nodes'
import { type Region } from './region'
import { isShift } from '../raster/sampleRow'

/** Where something hides at least this share of a region of so many pixels, and not all, the rest is drawn by itself. */
const WORTH_SHARE = 0.5,
  WORTH_PIXELS = 4096

const showsAll = (node: Node): boolean =>
  node.opacity === 1 && !node.mask && !node.atop && (node.blend ?? 'normal') === 'normal'

/** The part of the region in which a node hides everything below it; null where it hides nothing. */
function hidden(node: Node, region: Region): Region | null {
  if (!showsAll(node)) return null
  if (node.kind === 'fill') return node.fill.kind === 'colour' ? region : null
  if (node.kind === 'adjust') return adjustmentOf(node.adjustment).replaces?.(node.adjustment) ? region : null
  if (node.kind !== 'picture' || !node.picture.opaque) return null
  const [a, b, c, d] = node.toCanvas
  if (b !== 0 || c !== 0 || a <= 0 || d <= 0) return null
  const side = 2 ** region.level,
    full = node.picture.size ?? node.picture.levels[0]
  const [x0, y0] = apply(node.toCanvas, 0, 0),
    [x1, y1] = apply(node.toCanvas, full.width, full.height)
  const room = isIdentity(node.toCanvas) ? 0 : 2 * side * Math.max(1, a, d) // what interpolation and coarse levels may leave open at the rim
  const left = Math.max(region.x, Math.ceil((x0 + room) / side)),
    top = Math.max(region.y, Math.ceil((y0 + room) / side)),
    right = Math.min(region.x + region.width, Math.floor((x1 - room) / side)),
    bottom = Math.min(region.y + region.height, Math.floor((y1 - room) / side))
  if (right <= left || bottom <= top) return null
  return { level: region.level, x: left, y: top, width: right - left, height: bottom - top }
}

const area = ({ width, height }: Region): number => width * height

/** The last of the first `count` nodes that hides everything below it in the region; 0 when none does. */
export function lastCover(nodes: readonly Node[], count: number, region: Region): number {
  for (let i = count - 1; i > 0; i--) {
    const part = hidden(nodes[i], region)
    if (part && area(part) === area(region)) return i
  }
  return 0
}

/** The region in pieces, one of which something above `from` hides; null when that is not worth it. */
export function pieces(nodes: readonly Node[], from: number, count: number, region: Region): Region[] | null {
  if (area(region) < WORTH_PIXELS) return null
  for (let i = count - 1; i > from; i--) {
    const part = hidden(nodes[i], region)
    if (part && area(part) >= WORTH_SHARE * area(region)) return around(part, region)
  }
  return null
}

/** A part of a region, and what lies above, below, left and right of it. */
function around(part: Region, region: Region): Region[] {
  const right = part.x + part.width,
    bottom = part.y + part.height
  return [
    part,
    { ...region, height: part.y - region.y },
    { ...region, y: bottom, height: region.y + region.height - bottom },
    { ...part, x: region.x, width: part.x - region.x },
    { ...part, x: right, width: region.x + region.width - right },
  ].filter((each) => area(each) > 0)
}

/** One layer that lies on whole pixels of its level, with nothing to mix: its rows as they are. False when it is not so. */
export function copyWhole(node: PictureNode, region: Region, data: Uint8ClampedArray): boolean {
  if (!showsAll(node) || node.picture.size) return false
  const source = pickLevel(node.picture.levels.length, node.toCanvas, region)
  if (!source || !isShift(source.map)) return false
  const picture = node.picture.levels[source.level],
    { width, height } = region
  const shiftX = Math.round(source.map[4]),
    shiftY = Math.round(source.map[5])
  const from = Math.max(0, -shiftX),
    to = Math.min(width, picture.width - shiftX)
  if (to > from) {
    for (let y = Math.max(0, -shiftY); y < Math.min(height, picture.height - shiftY); y++) {
      const start = (y + shiftY) * picture.width + shiftX
      data.set(picture.data.subarray((start + from) * 4, (start + to) * 4), (y * width + from) * 4)
    }
  }
  return true
}
