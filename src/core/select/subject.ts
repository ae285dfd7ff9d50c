/**
 * Subject: what stands out against what touches the border, as one thing with an outline on edges. Where several things compete, `pick`
 * chooses among them. How it is found: `segment/things.ts`.
 */
import { THINGS_VERSION } from '../network/network'
import { subject as subjectStep, type SubjectFields } from '../steps/subject'
import { emptyMatte } from '../raster/picture'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { refine } from '../segment/objectCut'
import { stateToMatte } from '../segment/softEdge'
import { thingsOf } from '../segment/things'
import { segmentView } from '../segment/view'
import { type Finder } from './finder'

export const subject: Finder<'subject', SubjectFields> = {
  ...subjectStep,
  version: THINGS_VERSION + 1,
  find(scene, params, context) {
    const found = thingsOf(scene, params.sample, { ...context, check: (p) => context.check(0.66 * p) })
    if (!found)
      return {
        ...emptyMatte(scene),
        note: 'Nothing found, because nothing stands out from what touches the picture’s border.',
      }
    const { things, models } = found,
      last = things.length - 1,
      picks = [params.pick, ...params.also].map((pick) => Math.min(last, Math.floor(pick))),
      taken = things[picks[0]].map((_, i) => (picks.some((pick) => things[pick][i]) ? INSIDE : OUTSIDE))
    const view = segmentView(scene, params.sample, context),
      small = view.levels.length - 1,
      across = view.lab.width
    // What the others cover is not to come back at finer levels.
    const given = (level: number): Uint8Array => {
      const { width, height } = view.levels[level],
        given = new Uint8Array(width * height),
        shift = small - level
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const i = (y >> shift) * across + (x >> shift)
          if (taken[i] === OUTSIDE && things.some((thing) => thing[i])) given[y * width + x] = OUTSIDE
        }
      return given
    }
    const full = refine(
      taken,
      { levels: view.levels, models: models[picks[0]], givenAt: things.length > 1 ? given : undefined },
      (p) => context.check(0.66 + 0.3 * p),
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
