/** What a layer and its surroundings look like where it stands, and what matches it to them. */
import { smallPicture } from '@/core/match/smallLevel'
import { type MatchedLayer, matchLayer } from '@/core/match/surroundings'
import { type Matte, type Picture } from '@/core/raster/picture'
import { boundsOf, tallyOf } from '@/core/raster/tally'
import { cropPicture, cropRows } from '@/core/raster/crop'
import { frameAround } from '@/core/segment/view'
import { type Context } from '@/core/select/finder'
import { sceneOf } from '@/core/select/onePicture'
import { skyIn } from '@/core/select/sky'
import { byItself, layersBelow, looksOf } from '@/document/tree'
import { type SceneRecord } from '@/document/records'
import { SKY_FINDER } from './newSky'
import { type Studio } from './studio'
import { withId } from '@/document/withId'

/** Around the layer as far as this share of its size. */
const AROUND = 0.5
/** At least so far, px. */
const LEAST = 16
/** With more of it sky there is nothing that light falls on. */
const ALL_SKY = 0.95

/** Or one sentence about why it cannot be matched. */
export function measureSurroundings(
  studio: Studio,
  record: SceneRecord,
  id: string,
  context: Context,
): MatchedLayer | string {
  const { layers } = record,
    name = withId(layers, id)?.name ?? 'The layer',
    compose = (shown: SceneRecord['layers'], from: number) =>
      studio.compose({ ...record, layers: shown }, (p) => context.check(from + 0.25 * p))
  const alone = compose(byItself(layers, id, false), 0),
    shows = alphaOf(alone),
    box = boundsOf(shows),
    frame = box && frameAround([box.x, box.y, box.x + box.width, box.y + box.height], AROUND, LEAST, record.canvas)
  if (!frame) return `${name} shows nothing on the canvas.`
  const own = cropPicture(compose(byItself(layers, id, true), 0.25), frame),
    lower = layersBelow(layers, id),
    below = cropPicture(compose(lower, 0.5), frame)
  const skyOf = (picture: Picture, identity: string, from: number): Matte | null => {
    const small = smallPicture(picture),
      found = skyIn(sceneOf(small, identity), SKY_FINDER, { ...context, check: (p) => context.check(from + 0.1 * p) })
    return typeof found === 'string' || tallyOf(found).selected > ALL_SKY ? null : found
  }
  const around = `${frame.x},${frame.y} ${frame.width}×${frame.height}`
  return (
    matchLayer({
      own,
      below,
      shows: { ...frame, data: cropRows(shows.data, shows.width, frame, new Uint8Array(frame.width * frame.height)) },
      sky: {
        own: skyOf(own, `own ${around} ${looksOf(byItself(layers, id, true))}`, 0.75),
        below: skyOf(below, `below ${around} ${looksOf(lower)}`, 0.85),
      },
    }) ?? `Nothing that ${name} could be matched to lies below it.`
  )
}

const alphaOf = ({ width, height, data }: Picture): Matte => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => data[4 * i + 3]),
})
