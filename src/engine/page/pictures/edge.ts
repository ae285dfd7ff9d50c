/** The boundary unrolled, and pictures of its parts. */
import * as Comlink from 'comlink'
import { doubtfulSpots } from '@/core/edge/doubts'
import { foregroundColours, type FringeOptions } from '@/core/edge/foregroundColours'
import { type Ribbon, ribbonPicture as pictureOf, type RibbonView, unroll } from '@/core/edge/ribbon'
import { type Matte, type Picture } from '@/core/raster/picture'
import { bitmapOf } from '../bitmaps'
import { type SelectRequest, type UnrolledEdge } from '../protocol'
import { run, sceneOf, studio } from './work'

interface Unrolled {
  readonly ribbon: Ribbon
  readonly picture: Picture
  readonly matte: Matte
}
const BLANK: Picture = { width: 1, height: 1, data: new Uint8ClampedArray(4) }
/** What was unrolled last; nothing at first. */
let unrolled: Unrolled = {
  ribbon: { length: 0, places: new Float32Array(0), starts: [0] },
  picture: BLANK,
  matte: { ...BLANK, data: new Uint8Array(1) },
}

export const unrollEdge = (
  request: SelectRequest,
  fringe: FringeOptions | null,
  wanted: () => boolean,
): Promise<UnrolledEdge | null> =>
  run('Unrolling the edge', wanted, (context) => {
    const scene = sceneOf(request, context.check),
      matte = studio.matte(request.steps, scene, context.check),
      picture = scene.picture('all')
    const shown = fringe ? foregroundColours(picture, matte, fringe, context.check, context.crew) : picture,
      ribbon = unroll(matte)
    context.check(0.9)
    unrolled = { ribbon, picture: shown, matte: { ...matte, data: matte.data.slice() } }
    return { ...ribbon, places: ribbon.places.slice(), doubts: doubtfulSpots(ribbon, shown, matte) }
  })

export function ribbonPicture(view: RibbonView): ImageBitmap {
  const { ribbon, picture, matte } = unrolled
  const { data, width, height } = pictureOf(ribbon, picture, matte, view),
    bitmap = bitmapOf(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height))
  return Comlink.transfer(bitmap, [bitmap])
}
