/** What need not be drawn: layers below one that hides them all, and one layer that can be copied as it is. */
import { apply, isIdentity } from '../raster/affine'
import { pickLevel } from './mipLevel'
import { type Node, type PictureNode } from './nodes'
import { type Region } from './region'
import { isShift } from '../raster/sampleRow'

const showsAll = (node: Node): boolean =>
  node.opacity === 1 && !node.mask && !node.atop && (node.blend ?? 'normal') === 'normal'

/** The last node that hides everything below it in the region; 0 when none does. */
export function lastCover(nodes: readonly Node[], region: Region): number {
  for (let i = nodes.length - 1; i > 0; i--) {
    const node = nodes[i]
    if (node.kind === 'fill' && node.fill.kind === 'colour' && showsAll(node)) return i
    if (node.kind !== 'picture' || !node.picture.opaque || !showsAll(node)) continue
    const [a, b, c, d] = node.toCanvas
    if (b !== 0 || c !== 0 || a <= 0 || d <= 0) continue
    const side = 2 ** region.level,
      full = node.picture.size ?? node.picture.levels[0]
    const [x0, y0] = apply(node.toCanvas, 0, 0),
      [x1, y1] = apply(node.toCanvas, full.width, full.height)
    const room = isIdentity(node.toCanvas) ? 0 : 2 * side * Math.max(1, a, d) // what interpolation and coarse levels may leave open at the rim
    if (
      x0 + room <= region.x * side &&
      y0 + room <= region.y * side &&
      x1 - room >= (region.x + region.width) * side &&
      y1 - room >= (region.y + region.height) * side
    )
      return i
  }
  return 0
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
