/** Strokes that mark rather than paint: points and a size. */
import { type Mark } from '../fields/marks'
import { boundsOfPoints } from '../raster/bounds'
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

/** The pixels of a frame at 1 / 2^level its size beyond which marks cover nothing. */
export function boxOfMarks(marks: readonly Mark[], frame: Box, level: number, { width, height }: Size): Box {
  const [x0, y0, x1, y1] = boundsOfPoints(marks.flatMap(({ points }) => points)),
    scale = 1 / 2 ** level,
    reach = marks.reduce((most, { size }) => Math.max(most, (size * scale) / 2), 1) + 1,
    within = (v: number, most: number) => Math.min(most, Math.max(0, v)),
    x = within(Math.floor((x0 - frame.x) * scale - reach), width),
    y = within(Math.floor((y0 - frame.y) * scale - reach), height)
  return {
    x,
    y,
    width: marks.length ? within(Math.ceil((x1 - frame.x) * scale + reach), width) - x : 0,
    height: marks.length ? within(Math.ceil((y1 - frame.y) * scale + reach), height) - y : 0,
  }
}

/** 1 for what marks cover of the level of a view that is thought on. */
export const coveredBy = (strokes: readonly Mark[], { frame, levels }: SegmentView): Uint8Array =>
  coverMarks(strokes, frame, levels.length - 1, levels.at(-1)!).data.map((c) => (c >= 128 ? 1 : 0))
