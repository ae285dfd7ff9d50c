/**
 * Rough box: a sloppy box or loop around a thing finds the thing (segment/cutFromOutline); what is found is carried to full size.
 */
import { roughBox as roughBoxStep, type RoughBoxFields } from '../steps/roughBox'
import { THINGS_VERSION } from '../network/network'
import { emptyMatte } from '../raster/picture'
import { boundsOfPoints } from '../raster/bounds'
import { cutFromOutline, frameOf, outsideGiven } from '../segment/cutFromOutline'
import { INSIDE, UNDECIDED } from '../segment/gridCut'
import { refine } from '../segment/objectCut'
import { stateToMatte } from '../segment/softEdge'
import { thingView } from '../segment/view'
import { fillPolygons, type Point } from '../vector/fill'
import { type Context, type Finder, type Found, type Scene } from './finder'
import { type Sample } from '../steps/step'

export const roughBox: Finder<'roughBox', RoughBoxFields> = {
  ...roughBoxStep,
  version: THINGS_VERSION + 2,
  find(scene, params, context) {
    const loop = loopOf(params),
      nothing = (note: string): Found => ({ ...emptyMatte(scene), note })
    if (loop.length < 3) return nothing('Nothing found, because the outline has fewer than three points.')
    const bounds = boundsOfPoints(loop)
    if (bounds[2] - bounds[0] < 2 || bounds[3] - bounds[1] < 2)
      return nothing('Nothing found, because the box is smaller than two pixels.')
    if (bounds[2] <= 0 || bounds[3] <= 0 || bounds[0] >= scene.width || bounds[1] >= scene.height)
      return nothing('Nothing found, because the box lies outside the picture.')
    if (!params.analyse) return fillPolygons(scene, [loop], 'evenodd')
    return objectIn(scene, loop, params, context)
  },
}

const loopOf = ({ box, outline }: RoughBoxFields): readonly Point[] =>
  outline ??
  (box
    ? [
        [Math.min(box[0], box[2]), Math.min(box[1], box[3])],
        [Math.max(box[0], box[2]), Math.min(box[1], box[3])],
        [Math.max(box[0], box[2]), Math.max(box[1], box[3])],
        [Math.min(box[0], box[2]), Math.max(box[1], box[3])],
      ]
    : [])

function objectIn(
  scene: Scene,
  loop: readonly Point[],
  { sample, smoothEdge }: RoughBoxFields & { sample: Sample },
  context: Context,
): Found {
  const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
  const view = thingView(scene, sample, context, frameOf(loop, scene)!),
    small = view.levels.length - 1
  const given = (level: number): Uint8Array => outsideGiven(view, loop, level)
  const start = given(small),
    undecided = start.reduce((sum, s) => sum + (s === UNDECIDED ? 1 : 0), 0)
  if (undecided === 0) return nothing('there is nothing inside the box')
  context.check(0.05)
  const best = cutFromOutline(view, start, loop, { ...context, check: (p) => context.check(0.05 + 0.55 * p) })
  if (!best) return nothing('the box leaves nothing around it to tell the thing from: leave some space')
  if (!best.state.includes(INSIDE)) return nothing('nothing inside the box stands out from what surrounds it')
  const full = refine(best.state, { ...best, levels: view.levels, givenAt: given }, (p) =>
    context.check(0.6 + 0.35 * p),
  )
  return stateToMatte(full, view, scene, smoothEdge)
}
