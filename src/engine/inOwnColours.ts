/** A masked picture in the subject's own colours: what the old backdrop left in its edge is taken out. */
import { coverageOf } from '@/core/compose/cutOut'
import { type DecodedPicture } from '@/core/compose/nodes'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { type Crew } from '@/core/parallel/crew'
import { cropRows, partOf } from '@/core/raster/crop'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { boundsOf } from '@/core/raster/tally'
import { frameAround } from '@/core/segment/view'
import { type LayerMask } from '@/document/records'
import { type MadePaint } from './nodes'

/** How far around what shows fringe colours look, px. */
const SURROUNDINGS = 64

/** The part that shows; null where nothing does. @param levels the mask's mip levels, full size first */
export function inOwnColours(
  key: string,
  picture: Picture,
  mask: LayerMask,
  levels: readonly Matte[],
  check: (progress: number) => void,
  crew: Crew,
): MadePaint<DecodedPicture> | null {
  const { invert, outsideShown, toLayer, fringe, rim } = mask,
    coverage = coverageOf(picture, { levels, toCanvas: toLayer, invert, outsideShown }),
    shows = boundsOf(coverage)
  // The surroundings tell what is to be taken out.
  const box =
    shows && frameAround([shows.x, shows.y, shows.x + shows.width, shows.y + shows.height], 0, SURROUNDINGS, picture)
  if (!box) return null
  const clean = foregroundColours(
    partOf(picture, box),
    { ...box, data: cropRows(coverage.data, coverage.width, box, new Uint8Array(box.width * box.height)) },
    { amount: fringe ?? 0, rim },
    check,
    crew,
  )
  return {
    key,
    picture: { levels: picturePyramid(clean, false, crew.allocate), opaque: false },
    x: box.x,
    y: box.y,
  }
}
