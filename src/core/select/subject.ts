/**
 * Subject: what stands out against what touches the border, as one thing with an outline on edges. Where several things compete, `pick`
 * chooses among them. How it is found: `segment/things.ts`.
 */
import { THINGS_VERSION } from '../network/network'
import { subject as subjectStep, type SubjectFields } from '../steps/subject'
import { mapInto } from '../raster/mapInto'
import { emptyMatte, type Size } from '../raster/picture'
import { type Looking, withOutlineLookedAt } from '../segment/outlineLook'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { refine, type SmallAnswer } from '../segment/objectCut'
import { opaqueOnly } from '../segment/opaqueOnly'
import { stateToMatte } from '../segment/softEdge'
import { thingsOf } from '../segment/things'
import { enlarged, finerView, type SegmentView, segmentView } from '../segment/view'
import { type Finder } from './finder'

export const subject: Finder<'subject', SubjectFields> = {
  ...subjectStep,
  version: THINGS_VERSION + 2,
  find(scene, params, context) {
    const found = thingsOf(scene, params.sample, { ...context, check: (p) => context.check(0.66 * p) })
    if (!found)
      return {
        ...emptyMatte(scene),
        note: 'Nothing found, because nothing stands out from what touches the picture’s border.',
      }
    const { things, models, size } = found,
      last = things.length - 1,
      picks = [params.pick, ...params.also].map((pick) => Math.min(last, Math.floor(pick))),
      taken = mapInto(new Uint8Array(things[0].length), things[0], (_, i) =>
        picks.some((pick) => things[pick][i]) ? INSIDE : OUTSIDE,
      ),
      // What the others cover is not to come back at finer levels.
      others = taken.map((side, i) => (side === OUTSIDE && things.some((thing) => thing[i]) ? OUTSIDE : UNDECIDED))
    const chosen = { state: taken, models: models[picks[0]] },
      coarse = segmentView(scene, params.sample, context),
      view = context.network === false ? coarse : finerView(coarse, context),
      given = (level: number) => enlarged(others, size, view.levels[level]),
      cut =
        context.network === false
          ? chosen
          : onFinerView(chosen, size, view, given(view.levels.length - 1), {
              ...context,
              check: (p) => context.check(0.66 + 0.14 * p),
            })
    const full = refine(
      cut.state,
      { ...cut, levels: view.levels, givenAt: things.length > 1 ? given : undefined },
      (p) => context.check(0.8 + 0.16 * p),
    )
    const which = [...new Set(picks)].map((pick) => pick + 1).sort((a, b) => a - b)
    return {
      ...stateToMatte(full, view, scene, true),
      ...(things.length > 1
        ? {
            note: `${things.length} things compete; ${which.length > 1 ? `these are numbers ${which.join(', ')}` : `this is number ${which[0]}`}.`,
          }
        : {}),
    }
  },
}

/** What was chosen, as it is seen on the finer view. @param given of that view: UNDECIDED or OUTSIDE */
function onFinerView(
  chosen: SmallAnswer,
  size: Size,
  view: SegmentView,
  given: Uint8Array,
  looking: Looking,
): SmallAnswer {
  const small = view.levels.at(-1)!,
    opaque = opaqueOnly(small)
  return withOutlineLookedAt(
    { ...chosen, state: enlarged(chosen.state, size, small) },
    view,
    opaque.map((side, i) => (side === OUTSIDE ? OUTSIDE : given[i])),
    looking,
  )
}
