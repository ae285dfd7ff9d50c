/** Strokes that mark rather than paint: points and a size. */
import { type Mark } from '../fields/marks'
import { paintStrokes } from '../raster/brush'
import { emptyMatte, type Matte, type Picture, type Size } from '../raster/picture'
import { type Stroke } from '../raster/stroke'
import { type Box } from '../raster/content'
import { type SegmentView } from './view'

const painted = (
  { size: diameter }: Mark,
  points: readonly (readonly [number, number])[],
  scale: number,
  erase: boolean,
): Stroke => ({
  points,
  size: Math.max(1.5, diameter * scale),
  hardness: 1,
  strength: 1,
  spacing: 0.1,
  tip: 'round',
  erase,
})

/** Whatever was found, what marks touch is as they say, in their order: keeping never lowers, dropping never raises. What is transparent stays out. In place. */
export function holdMarks(
  matte: Matte,
  strokes: readonly (Mark & { readonly mode: 'keep' | 'drop' })[],
  { data }: Picture,
): Matte {
  paintStrokes(
    matte,
    strokes.filter(({ points }) => points.length).map((mark) => painted(mark, mark.points, 1, mark.mode === 'drop')),
  )
  const { width, height } = matte
  for (const { points, size } of strokes) {
    const reach = Math.ceil(size / 2) + 1,
      xs = points.map(([x]) => x),
      ys = points.map(([, y]) => y)
    const [left, right] = [Math.min(...xs) - reach, Math.max(...xs) + reach],
      [top, bottom] = [Math.min(...ys) - reach, Math.max(...ys) + reach]
    for (let y = Math.max(0, Math.floor(top)); y <= Math.min(height - 1, bottom); y++)
      for (
        let i = y * width + Math.max(0, Math.floor(left)), end = y * width + Math.min(width - 1, right);
        i <= end;
        i++
      )
        if (data[4 * i + 3] < 128) matte.data[i] = 0
  }
  return matte
}

/** What marks cover of a frame at 1 / 2^level its size. Marks thinner than a pixel there still cover one. */
export function coverMarks(strokes: readonly Mark[], frame: Box, level: number, size: Size): Matte {
  const matte = emptyMatte(size),
    scale = 1 / 2 ** level
  paintStrokes(
    matte,
    strokes
      .filter((s) => s.points.length)
      .map((mark) =>
        painted(
          mark,
          mark.points.map(([x, y]) => [(x - frame.x) * scale, (y - frame.y) * scale] as const),
          scale,
          false,
        ),
      ),
  )
  return matte
}

/** 1 for what marks cover of the level of a view that is thought on. */
export const coveredBy = (strokes: readonly Mark[], { frame, levels }: SegmentView): Uint8Array =>
  coverMarks(strokes, frame, levels.length - 1, levels.at(-1)!).data.map((c) => (c >= 128 ? 1 : 0))
