/** wily measure: what a photo says about the place it was taken in, as JSON. */
import { type Measures } from '@/core/match/measure'
import { type Picture, type Size } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { type Step } from '@/core/steps/registry'
import { skySteps } from '@/document/newSky'
import { measurePhoto as measured, type PhotoWater } from '@/engine/newSky'
import { MEMORY, readPhoto } from './files'
import { helpersFor } from './helpers'
import { imagesOf, readRecipe } from './select'

/** The steps that find the sky, as a recipe says or by themselves. */
export async function stepsFrom(
  recipeFile: string | undefined,
  photo: Size,
): Promise<{ steps: readonly Step[]; images: Map<string, Picture> }> {
  if (recipeFile === undefined) {
    let count = 0
    return { steps: skySteps(photo, () => `step ${++count}`), images: new Map() }
  }
  const recipe = await readRecipe(recipeFile)
  return { steps: recipe.steps, images: await imagesOf(recipe, recipeFile) }
}

export async function measurePhoto(photoFile: string, recipeFile: string | undefined): Promise<void> {
  const photo = await readPhoto(photoFile),
    { steps, images } = await stepsFrom(recipeFile, photo),
    { measures, water } = measured(sceneOf(photo, 'picture', images), steps, {
      ...plainContext(MEMORY),
      crew: helpersFor(photo),
    })
  process.stdout.write(`${JSON.stringify(told(measures, water), null, 1)}\n`)
}

/** Measures as they are told: rounded, with the units in the names. */
export function told({ size, skyShare, horizon, light, grain, blur, haze, land, sky }: Measures, water: PhotoWater) {
  const round = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits,
    rounded = (values: readonly number[], digits: number) => values.map((v) => round(v, digits)),
    tones = (part: Measures['land']) =>
      part && {
        meanLab: rounded(part.mean, 1),
        deviationLab: rounded(part.deviation, 1),
        darkL: part.dark,
        middleL: part.middle,
        lightL: part.light,
      }
  return {
    ...size,
    skyShare: round(skyShare, 4),
    water: { share: round(water.share, 4), is: water.is },
    horizon: horizon && { y: round(horizon.y, 1), tiltDegrees: round(horizon.tilt, 2), seen: horizon.seen },
    light: light && {
      from: light.from,
      side: light.side === null ? null : round(light.side, 3),
      kelvin: Math.round(light.kelvin),
      tintUv: round(light.tint, 4),
      ambientLinear: rounded(light.sky.ambient, 4),
      directLinear: rounded(light.sky.direct, 4),
      openSky: round(light.sky.open, 3),
    },
    grainLevels: grain && {
      deviation: round(grain.deviation, 2),
      byTone: grain.byTone.map(({ tone, deviation }) => ({ tone: round(tone, 3), deviation: round(deviation, 2) })),
    },
    blurPx: blur === null ? null : round(blur, 2),
    haze: haze === null ? null : round(haze, 3),
    landTones: tones(land),
    skyTones: tones(sky),
  }
}
