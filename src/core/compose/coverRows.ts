import { sampleCoverageRow, isShift } from '../raster/sampleRow'
import { pickLevel } from './mipLevel'
import { type PlacedMask } from './nodes'
import { type Region } from './region'
import { type Room } from './room'

/** Fills `cover` with a row of a mask; false where the mask hides all of it. */
export function coverRows(room: Room, mask: PlacedMask | undefined, region: Region): ((y: number) => boolean) | null {
  if (!mask) return null
  const { stack, bytes: bytesAt, cover } = room
  const { strength = 1, invert = false, outsideShown = false } = mask
  const gain = invert ? -strength : strength,
    lift = 1 - strength + (invert ? strength : 0)
  const source = pickLevel(mask.levels.length, mask.toCanvas, region),
    { width } = region,
    { run } = stack
  if (!source)
    return () => {
      stack.floats(cover, width).fill(gain * (outsideShown ? 1 : 0) + lift)
      return true
    }
  const matte = mask.levels[source.level],
    outside = outsideShown ? 255 : 0
  if (isShift(source.map)) {
    const shiftX = Math.round(source.map[4]),
      shiftY = Math.round(source.map[5])
    const from = Math.min(width, Math.max(0, -shiftX)),
      to = Math.max(from, Math.min(width, matte.width - shiftX))
    return (y) => {
      const row = y + shiftY,
        bytes = stack.bytes(bytesAt, width)
      if (row < 0 || row >= matte.height) bytes.fill(outside)
      else {
        bytes.fill(outside, 0, from)
        bytes.fill(outside, to)
        const start = row * matte.width + from + shiftX
        bytes.set(matte.data.subarray(start, start + to - from), from)
      }
      return run.coverRow(bytesAt, cover, width, gain, lift) !== 0
    }
  }
  return (y) => {
    const values = stack.floats(cover, width)
    if (!sampleCoverageRow(matte, source.map, y, values, outside)) {
      if (gain * (outside / 255) + lift <= 0) return false
      values.fill(outside / 255)
    }
    if (gain !== 1 || lift !== 0) run.scaleFloats(cover, width, gain, lift)
    return true
  }
}
