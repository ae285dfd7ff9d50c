/**
 * Live wire along an object: where the outline of the object that the anchors lie on passes two of them, the wire goes along it. The object is looked for
 * twice, by the anchors themselves and by the box around them; where both pass, the way is taken that the others agree with, the one along edges among them.
 */
import { type LiveWireFields } from '../steps/liveWire'
import { type Sample } from '../steps/step'
import { type Anchored, turnOfAnchors } from '../segment/turnOfAnchors'
import { frameOf } from '../segment/cutFromOutline'
import { decideInTurn } from '../segment/inTurn'
import { turnsOfMarks } from '../segment/marksInTurn'
import { boxAround, corrections, leadsAlongBox, nearEnough } from '../segment/objectOfAnchors'
import { stateToMatte } from '../segment/softEdge'
import { segmentView, wholeOf } from '../segment/view'
import { waysAlong } from '../vector/contourWays'
import { mostAgreed } from '../vector/mostAgreed'
import { type Point } from '../vector/fill'
import { areaOf, type Contour, traceMatte } from '../vector/trace'
import { type Context, type Scene } from './finder'

type Wire = LiveWireFields & { readonly sample: Sample }

/** What the object is told by: anchors on its outline, or the outline it lies within alone, and marks. */
type Asked = Omit<Anchored, 'anchors'> & Partial<Anchored>

const part = (context: Context, from: number, to: number): Context => ({
  ...context,
  check: (p) => context.check(from + (to - from) * p),
})

/** Pieces from each anchor to the next, along the object's outline where it passes both. A draft takes what is remembered. @param pieces as they are along edges */
export function alongObject(
  scene: Scene,
  wire: Wire,
  pieces: readonly (readonly Point[])[],
  context: Context,
): readonly (readonly Point[])[] {
  const { anchors } = wire,
    near = nearEnough(anchors, wire.reach),
    outline = boxAround(anchors),
    clockwise = areaOf(new Float64Array(pieces.flat(2))) > 0,
    boxed = { outline, keep: [], drop: [] }
  const waysBy = (asked: Asked, work: Context) => {
    const found = objectOutlines(scene, wire, asked, { near, clockwise }, work).map((outlines) =>
      waysAlong(outlines, anchors, near, clockwise).map((way) =>
        way && leadsAlongBox(way, outline, near, scene) ? null : way,
      ),
    )
    return pieces.map((_, k) => found.map((ways) => ways[k]).find((way) => way !== null))
  }
  const found =
    context.network === false
      ? [waysBy(boxed, context)]
      : [waysBy({ ...boxed, anchors }, part(context, 0, 0.5)), waysBy(boxed, part(context, 0.5, 1))]
  return pieces.map((piece, k) => mostAgreed([...found.flatMap((ways) => (ways[k] ? [ways[k]] : [])), piece]))
}

/** The outlines of the object the anchors lie on: those corrected by anchors that lie beside it first, then those of the object as it is found at first. */
function objectOutlines(
  scene: Scene,
  { anchors, sample }: Wire,
  asked: Asked,
  { near, clockwise }: { readonly near: number; readonly clockwise: boolean },
  context: Context,
): Contour[][] {
  const found = outlinesBy(asked, scene, sample, part(context, 0, 0.5))
  if (!found?.length) return []
  const marks = corrections(anchors, found, near, clockwise, scene),
    corrected = marks && outlinesBy({ ...asked, ...marks }, scene, sample, part(context, 0.5, 1))
  return corrected ? [corrected, found] : [found]
}

/** The outlines of what is asked for; undefined where a draft does not know them yet. */
function outlinesBy(asked: Asked, scene: Scene, sample: Sample, context: Context): Contour[] | undefined {
  const key = `outlines ${scene.identity(sample)} ${context.network} ${JSON.stringify(asked)}`,
    known = context.memory.get<Contour[]>(key)
  if (known || context.draft) return known
  const frame = frameOf(asked.outline, scene),
    outlines = frame
      ? outlinesIn(segmentView(scene, sample, context, frame), asked, scene.identity(sample), context)
      : []
  context.memory.set(key, outlines, key.length * 2 + outlines.reduce((sum, points) => sum + points.byteLength, 0))
  return outlines
}

function outlinesIn(
  view: ReturnType<typeof segmentView>,
  { anchors, ...marks }: Asked,
  identity: string,
  context: Context,
): Contour[] {
  const { frame } = view,
    what = `${identity} ${Object.values(frame).join(' ')} ${view.levels.length - 1}`,
    turns = anchors
      ? [turnOfAnchors({ anchors, ...marks }, view, what)]
      : turnsOfMarks({ ...marks, unsure: [], solver: 'auto' }, view, what),
    state = decideInTurn(turns, view, { ...context, rough: true, check: (p) => context.check(0.9 * p) })
  if (!state) return []
  const matte = stateToMatte(state, { ...view, frame: wholeOf(frame) }, frame, true),
    outlines = traceMatte(matte, (p) => context.check(0.9 + 0.1 * p))
  for (const points of outlines)
    for (let i = 0; i < points.length; i += 2) {
      points[i] += frame.x
      points[i + 1] += frame.y
    }
  return outlines
}
