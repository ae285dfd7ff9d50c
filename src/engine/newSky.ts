/** A photo measured, and the picture of a sky read: what page, server and command line ask alike. */
import { canonicalJson } from '@/core/fields/canonical'
import { parseStep } from '@/core/formats/recipe'
import { type Measures, measure } from '@/core/match/measure'
import { skyPictureOf, skyView } from '@/core/match/readSkyPicture'
import { type SkyPicture } from '@/core/match/skyPicture'
import { horizonLikelihood, type Likelihood } from '@/core/network/likelihood'
import { type Lesson } from '@/core/network/network'
import { type Matte, type Picture } from '@/core/raster/picture'
import { tallyOf } from '@/core/raster/tally'
import { segmentView } from '@/core/segment/view'
import { type Context, type Scene } from '@/core/select/finder'
import { sceneOf } from '@/core/select/onePicture'
import { EVERYTHING, skyIn } from '@/core/select/sky'
import { waterSeen } from '@/core/select/water'
import { foldSteps } from '@/core/select/steps'
import { type Step, type StepOfKind } from '@/core/steps/registry'

/** Less of the picture than this is no sky that could be replaced. */
const LEAST_SKY = 0.005
/** Of a picture of a sky at least this share looks like sky: what else looks like a little of it (a pale wall, a stage) shows none. */
const LEAST_OF_PICTURE = 0.5

/** What measuring a photo asks the network. */
export const MEASURED_BY: readonly Lesson[] = ['sky', 'water', 'horizon']

export interface MeasuredPhoto {
  readonly sky: Matte
  /** There is nothing else. */ readonly allSky: boolean
  readonly measures: Measures
  readonly water: PhotoWater
}

/**
 * What the active layer's photo measures; remembered, so that one sky after the other can be tried. It is measured before the sky's edge is solved:
 * that takes longest and tells nothing more (docs/QUALITY.md).
 * @param selecting steps that select its sky
 */
export function measurePhoto(scene: Scene, selecting: readonly Step[], context: Context): MeasuredPhoto {
  const steps = selecting.filter(({ kind }) => kind !== 'edge'),
    sky = foldSteps(steps, scene, { ...context, check: (p) => context.check(0.7 * p) }),
    key = `measures ${scene.identity('all')} ${scene.identity('layer')} ${canonicalJson(steps.map((step) => ({ ...step, id: '' })))}`,
    known = context.memory.get<Omit<MeasuredPhoto, 'sky'>>(key)
  if (known) return { sky, ...known }
  const share = tallyOf(sky).selected,
    // First: a page that has no weights for them yet begins again when they are there.
    water = waterOf(scene, context),
    below = belowHorizon(scene, context),
    found: Omit<MeasuredPhoto, 'sky'> = {
      water,
      // The finder finds nothing where all is alike.
      allSky: share > EVERYTHING || (share === 0 && shareOf(skyIn(scene, SKY_FINDER, context)) > EVERYTHING),
      measures: measure(scene.picture('layer'), sky, below, (p) => context.check(0.7 + 0.3 * p)),
    }
  context.memory.set(key, found, BYTES)
  return { sky, ...found }
}
/** What remembered measures take, about. */
const BYTES = 4096
export const SKY_FINDER = parseStep({ kind: 'sky' }) as StepOfKind<'sky'>
const shareOf = (found: Matte | string): number => (typeof found === 'string' ? 0 : tallyOf(found).selected)

/** What the network takes to lie below the horizon of the active layer's photo; null without the network. */
export const belowHorizon = (scene: Scene, context: Context): Likelihood | null =>
  context.network === false ? null : horizonLikelihood(segmentView(scene, 'layer', context).levels.at(-1)!)

/** Less of the picture than this is no water that mirrors its sky. */
const LEAST_WATER = 0.01
/** What of a photo looks like water, 0-1. Another sky is mirrored by itself only where it is sure; who asks for it knows that there is water. */
export interface PhotoWater {
  readonly share: number
  readonly is: 'sure' | 'perhaps' | 'none'
}
export function waterOf(scene: Scene, context: Context): PhotoWater {
  const { looks, sure } = waterSeen(scene, 'layer', context)
  return { share: looks, is: sure >= LEAST_WATER ? 'sure' : looks >= LEAST_WATER ? 'perhaps' : 'none' }
}

/** One sentence about why a photo can have no other sky; nothing when it can. */
export const whyNoNewSky = ({ sky, allSky, measures }: MeasuredPhoto): string | undefined =>
  allSky
    ? 'The photo is all sky, with no land to keep.'
    : tallyOf(sky).selected < LEAST_SKY
      ? 'The photo has no sky that could be replaced.'
      : measures.light && measures.horizon
        ? undefined
        : 'The sky is too small to be measured.'

/** What the picture of a sky says; or one sentence about why it shows none. @param name of the picture, for what is remembered of it */
export function readSky(picture: Picture, name: string, context: Context): SkyPicture | string {
  const { small, overLand } = skyView(picture),
    found = skyIn(sceneOf(overLand, `sky ${name}`), SKY_FINDER, context)
  if (typeof found === 'string') return `It is no picture of a sky, because ${found}.`
  const share = (shareOf(found) * overLand.height) / small.height
  return (
    (share >= LEAST_OF_PICTURE && skyPictureOf(small, found, picture)) ||
    `It is no picture of a sky: only ${(100 * share).toFixed(0)} % of it looks like one.`
  )
}
