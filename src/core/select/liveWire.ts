/** Live wire: a closed outline that follows the object the anchors lie on, or the strongest edges between them. */
import { liveWire as liveWireStep, type LiveWireFields } from '../steps/liveWire'
import { type Point } from '../vector/fill'
import { wireBetween } from '../segment/liveWire'
import { emptyMatte, type Picture } from '../raster/picture'
import { filled } from './filled'
import { type Context, type Finder, type Found, type Scene } from './finder'
import { type Sample } from '../steps/step'
import { alongObject } from './wireAlongObject'

/** The outline through the anchors, in pieces from each to the next. They are remembered: moving an anchor changes two. @param closed the last is joined to the first */
export function wirePieces(
  scene: Scene,
  { anchors, reach, edgeGradient, sample }: LiveWireFields & { sample: Sample },
  closed: boolean,
  context: Context,
): Point[][] {
  const pictureName = scene.identity(sample),
    out: Point[][] = []
  let picture: Picture | undefined
  for (let k = 0; k < anchors.length - (closed ? 0 : 1); k++) {
    const a = anchors[k],
      b = anchors[(k + 1) % anchors.length],
      key = `wire ${pictureName} ${a.join()} ${b.join()} ${reach} ${edgeGradient}`
    let piece = context.memory.get<Point[]>(key)
    if (!piece) {
      context.check(k / anchors.length)
      picture ??= scene.picture(sample)
      piece = wireBetween(picture, a, b, reach, edgeGradient)
      context.memory.set(key, piece, piece.length * 48)
    }
    out.push(piece)
  }
  return out
}

/** The closed outline in pieces, as it is found: along the object where it passes two anchors, else along edges. */
export function outlinePieces(
  scene: Scene,
  wire: LiveWireFields & { sample: Sample },
  context: Context,
): readonly (readonly Point[])[] {
  const pieces = wirePieces(scene, wire, true, context)
  return wire.followObject && wire.anchors.length > 2 ? alongObject(scene, wire, pieces, context) : pieces
}

export const liveWire: Finder<'liveWire', LiveWireFields> = {
  ...liveWireStep,
  find(scene, params, context): Found {
    if (params.anchors.length < 2)
      return { ...emptyMatte(scene), note: 'Nothing found yet, because an outline needs at least two anchors.' }
    if (params.anchors.every(([x, y]) => x < 0 || y < 0 || x >= scene.width || y >= scene.height))
      return { ...emptyMatte(scene), note: 'Nothing found, because all anchors lie outside the picture.' }
    const outline = outlinePieces(scene, params, context).flatMap((piece, k) => (k ? piece.slice(1) : piece))
    return filled(scene, [outline], 'evenodd', params.antialias, context)
  },
}
