/**
 * What segmentation looks at: a part of the picture at its mip levels down to one small enough to think on, and that level's colours.
 * The last one made is remembered.
 */
import { partOf } from '../raster/crop'
import { halvePicture } from '../raster/levels'
import { type Box } from '../raster/content'
import { type Picture, sameSize, type Size } from '../raster/picture'
import { type Memory } from '../cache/lruCache'
import { type LabPlanes, labPlanes } from './labPlanes'

/** What pixels there are to look at: those of the active layer, or of all. */
export interface Sight extends Size {
  picture(sample: Sample): Picture
  /** Changes whenever those pixels change. */ identity(sample: Sample): string
}
export type Sample = 'layer' | 'all'

export interface SegmentView {
  /** The part looked at, whole px of the picture. */
  readonly frame: Box
  /** Full size first, down to the level that is thought on. */
  readonly levels: readonly Picture[]
  /** Of the last level. */
  readonly lab: LabPlanes
}

/** The level that is thought on has at most so many pixels; so many where thin things count (`finerView`). */
const MOST_PIXELS = 130_000,
  MOST_FINER_PIXELS = 260_000

export const wholeOf = ({ width, height }: Size): Box => ({ x: 0, y: 0, width, height })

/** A box grown by a share of its sides (at least `least` px), within the picture, on whole pixels; null when nothing of it lies there. */
export function frameAround(
  box: readonly [x0: number, y0: number, x1: number, y1: number],
  margin: number,
  least: number,
  { width, height }: Size,
): Box | null {
  const dx = Math.max(least, margin * (box[2] - box[0])),
    dy = Math.max(least, margin * (box[3] - box[1]))
  if (box[2] <= 0 || box[3] <= 0 || box[0] >= width || box[1] >= height) return null
  const x = Math.max(0, Math.floor(box[0] - dx)),
    y = Math.max(0, Math.floor(box[1] - dy))
  return {
    x,
    y,
    width: Math.min(width, Math.ceil(box[2] + dx)) - x,
    height: Math.min(height, Math.ceil(box[3] + dy)) - y,
  }
}

export function segmentView(
  scene: Sight,
  sample: Sample,
  { memory }: { readonly memory: Memory },
  frame: Box = wholeOf(scene),
): SegmentView {
  const name = `${scene.identity(sample)} ${frame.x},${frame.y} ${frame.width}×${frame.height}`,
    key = `segmentView ${sameSize(frame, scene) ? 'whole' : 'part'}`
  const known = memory.get<{ name: string; view: SegmentView }>(key)
  if (known?.name === name) return known.view
  const levels = [partOf(scene.picture(sample), frame)]
  for (let last = levels[0]; last.width * last.height > MOST_PIXELS; levels.push(last)) last = halvePicture(last)
  const view = { frame, levels, lab: labPlanes(levels.at(-1)!) }
  memory.set(
    key,
    { name, view },
    levels.slice(sameSize(frame, scene) ? 1 : 0).reduce((sum, level) => sum + level.data.byteLength, 0) +
      view.lab.L.byteLength * 3,
  )
  return view
}

/** What a thing is looked for in: the finer view, but of a draft. */
export function thingView(
  scene: Sight,
  sample: Sample,
  work: { readonly memory: Memory; readonly draft?: boolean },
  frame: Box,
): SegmentView {
  const view = segmentView(scene, sample, work, frame)
  return work.draft ? view : finerView(view, work)
}

/** The same view, thought on at the level before its last, where that is not too large: what is thin is a pixel wide there, not half of one. */
export function finerView(view: SegmentView, { memory }: { readonly memory: Memory }): SegmentView {
  const levels = view.levels.slice(0, -1),
    last = levels.at(-1)
  if (!last || last.width * last.height > MOST_FINER_PIXELS) return view
  const known = memory.get<{ of: SegmentView; view: SegmentView }>('finerView')
  if (known?.of === view) return known.view
  const finer = { frame: view.frame, levels, lab: labPlanes(last) }
  memory.set('finerView', { of: view, view: finer }, finer.lab.L.byteLength * 3)
  return finer
}

/** A plane of a level of a view, a byte a pixel, at the size of a finer one. */
export function enlarged(plane: Uint8Array, { width: across }: Size, { width, height }: Size): Uint8Array {
  const out = new Uint8Array(width * height),
    shift = Math.round(Math.log2(width / across))
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) out[i] = plane[(y >> shift) * across + (x >> shift)]
  return out
}
