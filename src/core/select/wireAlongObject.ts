/** Live wire along an object: where the outline of the object that the anchors lie on passes two of them, the wire goes along it. */
import { type LiveWireFields } from '../steps/liveWire'
import { type Sample } from '../steps/step'
import { type MarksFields } from '../steps/marks'
import { frameOf } from '../segment/cutFromOutline'
import { decideInTurn } from '../segment/inTurn'
import { turnsOfMarks } from '../segment/marksInTurn'
import { boxAround, corrections, leadsAlongBox, nearEnough } from '../segment/objectOfAnchors'
import { stateToMatte } from '../segment/softEdge'
import { segmentView, wholeOf } from '../segment/view'
import { waysAlong } from '../vector/contourWays'
import { type Point } from '../vector/fill'
import { areaOf, type Contour, traceMatte } from '../vector/trace'
import { type Context, type Scene } from './finder'

type Wire = LiveWireFields & { readonly sample: Sample }

/** Pieces from each anchor to the next, along the object's outline where it passes both. A draft takes what is remembered. @param pieces as they are along edges */
export function alongObject(
  scene: Scene,
  wire: Wire,
  pieces: readonly (readonly Point[])[],
  context: Context,
): readonly (readonly Point[])[] {
  const near = nearEnough(wire.anchors, wire.reach),
    loop = boxAround(wire.anchors),
    clockwise = areaOf(new Float64Array(pieces.flat(2))) > 0,
    ways = objectOutlines(scene, wire, loop, near, clockwise, context).map((outlines) =>
      waysAlong(outlines, wire.anchors, near, clockwise).map((way) =>
        way && leadsAlongBox(way, loop, near, scene) ? null : way,
      ),
    )
  return pieces.map((piece, k) => ways.map((way) => way[k]).find(Boolean) ?? piece)
}

/** The outlines of the object the anchors lie on: those corrected by anchors that lie beside it first, then those of the object as it is found in the box around them. */
function objectOutlines(
  scene: Scene,
  { anchors, sample }: Wire,
  loop: readonly Point[],
  near: number,
  clockwise: boolean,
  context: Context,
): Contour[][] {
  const part = (from: number, to: number): Context => ({
      ...context,
      check: (p) => context.check(from + (to - from) * p),
    }),
    found = outlinesBy({ outline: loop, keep: [], drop: [] }, scene, sample, part(0, 0.5))
  if (!found?.length) return []
  const marks = corrections(anchors, found, near, clockwise, scene),
    corrected = marks && outlinesBy({ outline: loop, ...marks }, scene, sample, part(0.5, 1))
  return corrected ? [corrected, found] : [found]
}

/** The outlines of what an outline and marks say; undefined where a draft does not know them yet. */
function outlinesBy(
  marks: Required<Pick<MarksFields, 'outline' | 'keep' | 'drop'>>,
  scene: Scene,
  sample: Sample,
  context: Context,
): Contour[] | undefined {
  const key = `outlines ${scene.identity(sample)} ${context.network} ${JSON.stringify(marks)}`,
    known = context.memory.get<Contour[]>(key)
  if (known || context.draft) return known
  const frame = frameOf(marks.outline, scene),
    outlines = frame
      ? outlinesIn(segmentView(scene, sample, context, frame), marks, scene.identity(sample), context)
      : []
  context.memory.set(key, outlines, key.length * 2 + outlines.reduce((sum, points) => sum + points.byteLength, 0))
  return outlines
}

function outlinesIn(
  view: ReturnType<typeof segmentView>,
  marks: Pick<MarksFields, 'outline' | 'keep' | 'drop'>,
  identity: string,
  context: Context,
): Contour[] {
  const { frame } = view,
    what = `${identity} ${Object.values(frame).join(' ')} ${view.levels.length - 1}`,
    turns = turnsOfMarks({ ...marks, unsure: [], solver: 'auto' }, view, what),
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
