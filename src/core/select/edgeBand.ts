/**
 * Edge band: a loosely drawn closed outline; the true edge is found inside a band around it, as the cheapest cut through the band between
 * the colours along its inner and its outer side.
 * Sources: Boykov and Jolly, ICCV 2001; Xu, Bansal and Ahuja, "Object segmentation using graph cuts based active contours", CVPR 2003 (the cut in a band around a contour).
 */
import { edgeBand as edgeBandStep, type EdgeBandFields } from '../steps/edgeBand'
import { mapInto } from '../raster/mapInto'
import { emptyMatte, type Matte } from '../raster/picture'
import { boundsOfPoints } from '../raster/bounds'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { nearAny } from '../raster/nearAny'
import { cutSmall, refine } from '../segment/objectCut'
import { coverMarks } from '../segment/strokes'
import { stateToMatte } from '../segment/softEdge'
import { frameAround, type SegmentView, segmentView } from '../segment/view'
import { grow } from '../raster/grow'
import { fillPolygons } from '../vector/fill'
import { type Finder, type Found } from './finder'

export const edgeBand: Finder<'edgeBand', EdgeBandFields> = {
  ...edgeBandStep,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (params.points.length < 3) return nothing('the outline has fewer than three points')
    const most = (params.widths ?? []).reduce((a, b) => Math.max(a, b), params.width),
      frame = frameAround(boundsOfPoints(params.points), 0, 3 * most + 4, scene)
    if (!frame) return nothing('the outline lies outside the picture')
    const view = segmentView(scene, params.sample, context, frame),
      small = view.levels.length - 1,
      given = (level: number) => givenBy(params, view, level),
      start = given(small)
    context.check(0.1)
    const { width, height } = view.lab
    if (!start.includes(INSIDE)) return nothing('the band covers all that the outline encloses: make it narrower')
    // Colours are learnt along the band only, within its width.
    const beside = nearAny(
        start,
        (s) => s === UNDECIDED,
        width,
        height,
        Math.max(2, Math.ceil((2 * most) / 2 ** small)),
      ),
      weight = Float32Array.from(beside)
    const within = fillPolygons(
      view.lab,
      [params.points.map(([x, y]) => [(x - frame.x) / 2 ** small, (y - frame.y) / 2 ** small])],
      'evenodd',
    ).data
    const guess = mapInto(new Float32Array(within.length), within, (c) => 0.3 + (0.4 * c) / 255)
    const { state, models } = cutSmall({ lab: view.lab, given: start, guess, weight }, (p) =>
      context.check(0.1 + 0.4 * p),
    )
    const full = refine(state, { levels: view.levels, models, givenAt: given, loud: Infinity, smoothness: 5 }, (p) =>
      context.check(0.5 + 0.4 * p),
    )
    const matte: Matte = stateToMatte(full, view, scene, true)
    return params.offset === 0 ? matte : grow(matte, params.offset)
  },
}

function givenBy(
  { points: outline, width, widths: each }: EdgeBandFields,
  { levels, frame }: SegmentView,
  level: number,
): Uint8Array {
  const picture = levels[level],
    at = (i: number) => each?.[i % outline.length] ?? width
  const band = coverMarks(
    outline.map((p, i) => ({ points: [p, outline[(i + 1) % outline.length]], size: at(i) + at(i + 1) })),
    frame,
    level,
    picture,
  ).data
  const within = fillPolygons(
    picture,
    [outline.map(([x, y]) => [(x - frame.x) / 2 ** level, (y - frame.y) / 2 ** level])],
    'evenodd',
  ).data
  return band.map((b, i) =>
    picture.data[4 * i + 3] < 128 ? OUTSIDE : b >= 128 ? UNDECIDED : within[i] >= 128 ? INSIDE : OUTSIDE,
  )
}
