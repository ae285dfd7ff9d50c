/** The picture worker: decodes pictures into shared memory, runs the finders, and prepares what makes later changes immediate. */
import * as Comlink from 'comlink'
import { contentBox } from '@/core/raster/content'
import { mattePyramid } from '@/core/raster/levels'
import { type Matte } from '@/core/raster/picture'
import { boundsOf } from '@/core/raster/tally'
import { outlinePieces, wirePieces } from '@/core/select/liveWire'
import { isFinding } from '@/core/steps/registry'
import { pictureRegions, regionOutline, regionsHolding } from '@/core/select/regions'
import { type Context } from '@/core/select/finder'
import { fittingTolerance, warm } from '@/core/select/similarColour'
import { findStep } from '@/core/select/steps'
import { quickWire } from '@/core/segment/liveWire'
import { thingsOf } from '@/core/segment/things'
import { segmentView } from '@/core/segment/view'
import { matteSubpaths } from '@/core/vector/fitCurves'
import { pathData } from '@/core/vector/path'
import { measureSurroundings } from '../../surroundings'
import { MEASURED_BY, measurePhoto, readSky, whyNoNewSky } from '../../newSky'
import { matteBitmap, mattePng } from '../bitmaps'
import { networkWeights } from '../networkWeights'
import {
  ACROSS,
  FITTING,
  HOVER,
  MATCH,
  type PictureWorker,
  RIBBON,
  SELECT,
  type SelectRequest,
  type SharedPicture,
  TRACE,
  WARM,
} from '../protocol'
import { fittingReach } from '@/core/match/fittingReach'
import { acrossEdge } from '@/core/edge/profile'
import { ribbonPicture, unrollEdge } from './edge'
import { stopPreparing } from './prepare'
import { renew, select } from './select'
import {
  addHelper,
  closePicture,
  finish,
  handOver,
  holdOn,
  inShared,
  keepPictures,
  listen,
  newest,
  newestNow,
  openEarly,
  openPicture,
  run,
  sceneOf,
  studio,
  withAreas,
  withRequest,
} from './work'

/** A made picture on its way to the tiles. */
const placed = (made: { picture: Omit<SharedPicture, 'rarestHue'>; x: number; y: number } | null) =>
  made && { picture: { ...made.picture, rarestHue: 0 }, x: made.x, y: made.y }

/** Looks at the boundary of the steps' matte, unless a newer question of its kind, or a newer selection, comes first. */
function lookAcross<T>(
  request: SelectRequest,
  kind: number,
  number: number,
  look: (matte: Matte, check: Context['check']) => T,
) {
  const latest = newest(kind, number),
    selecting = newest(SELECT, newestNow(SELECT))
  return run(
    'Looking across the edge',
    () => latest() && selecting(),
    ({ check }) => look(studio.matte(request.steps, sceneOf(request, check), check), check),
  )
}

/** Solves the edge of a sky that was measured, while the editor looks at others: the first that is brought in is there the sooner. */
function solveLater(request: SelectRequest, number: number): void {
  const latest = newest(MATCH, number),
    selecting = newest(SELECT, newestNow(SELECT)),
    letGo = holdOn(request)
  run(
    'Finding the sky’s edge',
    () => latest() && selecting(),
    ({ check }) => studio.matte(request.steps, sceneOf(request, check), check),
  )
    // Whoever brings a sky in meets it again, and is told.
    .catch(() => undefined)
    .finally(letGo)
}

const api: PictureWorker = {
  start: listen,
  helpedBy: addHelper,
  open: openPicture,
  close: closePicture,
  keep: keepPictures,
  openEarly,
  handOver,
  select: (sent, number) => withRequest(sent, (request) => select(request, newest(SELECT, number))),
  warm: (sent, number) =>
    withRequest(sent, async (request) => {
      const done = await run('Looking at the picture', newest(WARM, number), (context) => {
        warm(sceneOf(request, context.check), 'all', context)
        return true
      })
      return done ?? false
    }),
  stopPreparing,
  renew: (sent) => withRequest(sent, (request) => renew(request)),
  mask: (mask, scenes) =>
    withAreas([mask], scenes, [], () =>
      finish('Making the mask', ({ check }) => inShared(studio.mask(mask, scenes, check).levels)),
    ),
  keptMatte: (sent) =>
    withRequest(sent, (request) =>
      finish('Keeping this edge', ({ check }) => {
        const matte = studio.matte(request.steps, sceneOf(request, check), check)
        return inShared(mattePyramid({ ...matte, data: matte.data.slice() }))
      }),
    ),
  paint: (layer, scenes) =>
    withAreas(
      layer.items.map((item) => item.area),
      scenes,
      [],
      () => finish('Painting', ({ check }) => placed(studio.paint(layer, scenes, check))),
    ),
  fringed: (layer, scenes, number) =>
    withAreas(layer.mask ? [layer.mask] : [], scenes, [layer.asset], async () => {
      const made = await run('Taking out fringe colours', newest(SELECT, number), ({ check }) => ({
        made: studio.fringed(layer, scenes, check),
      }))
      return made ? placed(made.made) : false
    }),
  selectedBox: (sent) =>
    withRequest(sent, (request) =>
      finish('Selecting', ({ check }) => boundsOf(studio.matte(request.steps, sceneOf(request, check), check))),
    ),
  contentBox: (sent, box, sample) => withRequest(sent, (request) => contentBox(sceneOf(request).picture(sample), box)),
  trace: (sent, tolerance, leastArea, number) =>
    withRequest(sent, (request) =>
      run('Tracing the edge', newest(TRACE, number), ({ check }) => {
        const matte = studio.matte(request.steps, sceneOf(request, check), check)
        return pathData(matteSubpaths(matte, tolerance, leastArea, check))
      }),
    ),
  wire: (sent, values, to, moving, number) =>
    withRequest(sent, (request) => {
      if (newestNow(HOVER) !== number) return null
      return finish('Following the edge', (context) => {
        const scene = sceneOf(request, context.check)
        if (!to) return { pinned: outlinePieces(scene, values, { ...context, draft: moving }), loose: [] }
        return {
          pinned: wirePieces(scene, values, false, context),
          loose: quickWire(
            segmentView(scene, values.sample, studio).levels,
            values.anchors.at(-1)!,
            to,
            values.reach,
            values.edgeGradient,
          ),
        }
      })
    }),
  region: (sent, at, detail, sample, number) =>
    withRequest(sent, (request) => {
      if (newestNow(HOVER) !== number) return null
      return finish('Finding the picture’s regions', (context) => {
        const scene = sceneOf(request, context.check),
          regions = pictureRegions(scene, sample, context),
          // What follows the pointer is a draft, and shows no progress of its own.
          quick = { ...context, draft: true, check: () => {} },
          held = regionsHolding(regions, [at], detail, `regions ${scene.identity(sample)}`, quick)
        return held && regionOutline(held, regions)
      })
    }),
  fittingTolerance: (sent, values) =>
    withRequest(sent, (request) =>
      finish('Measuring the pick', ({ check }) => fittingTolerance(sceneOf(request, check), values)),
    ),
  subjects: (sent, sample, longest) =>
    withRequest(sent, (request) =>
      finish('Finding the subject', (context) => {
        const found = thingsOf(sceneOf(request, context.check), sample, context)
        const bitmaps = (found?.things ?? []).map((thing) =>
          matteBitmap([{ ...found!.size, data: thing.map((v) => v * 255) }], longest),
        )
        return Comlink.transfer(bitmaps, bitmaps)
      }),
    ),
  measure: (sent, number) =>
    withRequest(sent, async (request) => {
      // All at once, not each when it is first asked.
      for (const lesson of MEASURED_BY) networkWeights(lesson).catch(() => {})
      const photo = await run('Measuring the photo', newest(MATCH, number), (context) =>
        measurePhoto(sceneOf(request, context.check), request.steps, context),
      )
      if (!photo) return null
      const problem = whyNoNewSky(photo)
      if (!problem) solveLater(request, number)
      return { measures: photo.measures, water: photo.water, problem }
    }),
  matchLayer: (sent, layer, number) =>
    withRequest(sent, (request) =>
      run('Looking at the surroundings', newest(MATCH, number), (context) =>
        measureSurroundings(studio, request, layer, context),
      ),
    ),
  readSky: async (asset) => {
    const sky = await openPicture(asset)
    try {
      return await finish('Looking at the sky', (context) => readSky(sky.levels[0], asset, context))
    } finally {
      closePicture(asset)
    }
  },
  ribbon: (sent, fringe, number) =>
    withRequest(sent, (request) => {
      // A newer selection goes first, and asks for a ribbon of its own.
      const latest = newest(RIBBON, number),
        selecting = newest(SELECT, newestNow(SELECT))
      return unrollEdge(request, fringe, () => latest() && selecting())
    }),
  acrossEdge: (sent, reach, number) =>
    withRequest(sent, (request) => lookAcross(request, ACROSS, number, (matte) => acrossEdge(matte, reach))),
  fittingReach: (sent, number) =>
    withRequest(sent, (request) =>
      lookAcross(request, FITTING, number, (matte, check) => {
        // Asked again whenever things rest.
        const scene = sceneOf(request, check),
          key = `fitting reach ${scene.identity('all')} ${scene.identity('layer')} ${JSON.stringify(request.steps)}`
        let known = studio.memory.get<{ reach: number | null }>(key)
        if (!known) {
          known = { reach: fittingReach(scene.picture('all'), matte) }
          studio.memory.set(key, known, key.length * 2)
        }
        return known.reach
      }),
    ),
  ribbonPicture,
  mattePng: (sent) =>
    withRequest(sent, (request) =>
      finish('Making the mask', ({ check }) => mattePng(studio.matte(request.steps, sceneOf(request, check), check))),
    ),
  thumbnails: (sent, longest) =>
    withRequest(sent, (request) => {
      const scene = sceneOf(request)
      const matteOf = (step: Parameters<typeof findStep>[0]): Matte =>
        findStep(step, scene, { memory: studio.memory, check: () => {} }).matte
      const out: Record<string, ImageBitmap> = {}
      for (const step of request.steps)
        if (step.id && isFinding(step)) out[step.id] = matteBitmap([matteOf(step)], longest)
      return Comlink.transfer(out, Object.values(out))
    }),
}

Comlink.expose(api)
