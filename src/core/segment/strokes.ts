/** Strokes that mark rather than paint: points and a size. */
import { type Mark } from '../fields/marks'
import { paintStrokes } from '../raster/brush'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { type Box } from '../raster/content'

/** What marks cover of a frame at 1 / 2^level its size. Marks thinner than a pixel there still cover one. */
export function coverMarks(strokes: readonly Mark[], frame: Box, level: number, size: Size): Matte {
  const matte = emptyMatte(size),
    scale = 1 / 2 ** level
  paintStrokes(
    matte,
    strokes
      .filter((s) => s.points.length)
      .map(({ points, size: diameter }) => ({
        points: points.map(([x, y]) => [(x - frame.x) * scale, (y - frame.y) * scale] as const),
        size: Math.max(1.5, diameter * scale),
        hardness: 1,
        strength: 1,
        spacing: 0.1,
        tip: 'round',
        erase: false,
      })),
  )
  return matte
}
