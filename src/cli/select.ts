/** wily select and wily cutout: a recipe on a photo. */
import { dirname, resolve } from 'node:path'
import sharp, { type Sharp } from 'sharp'
import { cutOut, layOver } from '@/core/compose/cutOut'
import { RecordError } from '@/core/fields/record'
import { parseRecipe } from '@/core/formats/recipe'
import { type Crew } from '@/core/parallel/crew'
import { IDENTITY } from '@/core/raster/affine'
import { type Matte, type Picture } from '@/core/raster/picture'
import { tallyOf } from '@/core/raster/tally'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { type Recipe } from '@/core/steps/registry'
import { WIDEST_RIM } from '@/document/limits'
import { helpersFor } from './helpers'
import { MEMORY, pngOf, raw, readJsonFile, readPhoto, Unusable, writeWhole } from './files'

export interface SelectOptions {
  recipe: string
  out: string
  report?: string
}
export interface CutoutOptions {
  recipe: string
  out: string
  backdrop?: string
  fringe?: string
  rim?: string
}

interface Timings {
  decode: number
  solve: number
  encode: number
}
interface Selected {
  crew: Crew | undefined
  photo: Picture
  matte: Matte
  ms: Timings
  steps: { kind: string; ms: number; note?: string }[]
}

async function selectFrom(photoFile: string, recipeFile: string): Promise<Selected> {
  const recipe = await readRecipe(recipeFile)
  const images = await imagesOf(recipe, recipeFile)
  const ms: Timings = { decode: 0, solve: 0, encode: 0 }
  let started = performance.now()
  const photo = await readPhoto(photoFile)
  ms.decode = performance.now() - started
  started = performance.now()
  const steps: Selected['steps'] = [],
    crew = helpersFor(photo)
  const matte = foldSteps(recipe.steps, sceneOf(photo, 'picture', images), {
    ...plainContext(MEMORY),
    crew,
    stepDone: (_, kind, milliseconds, _remembered, note) => {
      steps.push({ kind, ms: milliseconds, ...(note ? { note } : {}) })
    },
  })
  ms.solve = performance.now() - started
  return { crew, photo, matte, ms, steps }
}

/** The pictures that steps name: files, looked for from the recipe's folder. */
export async function imagesOf(recipe: Recipe, recipeFile: string): Promise<Map<string, Picture>> {
  const images = new Map<string, Picture>()
  for (const step of recipe.steps)
    if ((step.kind === 'image' || step.kind === 'trimap') && !images.has(step.asset))
      images.set(step.asset, await readPhoto(resolve(dirname(recipeFile), step.asset)))
  return images
}

export async function readRecipe(file: string): Promise<Recipe> {
  const json = await readJsonFile(file, 'recipe')
  try {
    return parseRecipe(json)
  } catch (error) {
    throw error instanceof RecordError ? new Unusable(`${file}: ${error.message}`) : error
  }
}

export async function select(photoFile: string, options: SelectOptions): Promise<void> {
  if (options.report !== undefined && resolve(options.report) === resolve(options.out))
    throw new Unusable('--report and --out name the same file; nothing was written.')
  const { matte, ms, steps } = await selectFrom(photoFile, options.recipe)
  const started = performance.now()
  const png = await sharp(matte.data, raw(1, matte)).toColourspace('b-w').png({ compressionLevel: 6 }).toBuffer()
  ms.encode = performance.now() - started
  const report = JSON.stringify({
    width: matte.width,
    height: matte.height,
    selected: tallyOf(matte).selected,
    ms,
    steps,
  })
  for (const { kind, note } of steps) if (note) process.stdout.write(`${kind}: ${note}\n`)
  await writeWhole([[options.out, png], ...(options.report ? [[options.report, `${report}\n`] as const] : [])])
}

export async function cutout(photoFile: string, options: CutoutOptions): Promise<void> {
  const backdrop = options.backdrop === undefined ? undefined : await readBackdrop(options.backdrop)
  const { crew, photo, matte } = await selectFrom(photoFile, options.recipe)
  const cut = cutOut(
    photo,
    { levels: [matte], toCanvas: IDENTITY },
    { amount: number('--fringe', options.fringe, 0, 1, 1), rim: number('--rim', options.rim, 0, WIDEST_RIM, 0) },
    undefined,
    crew,
  )
  if (!backdrop) return writeWhole([[options.out, await pngOf(cut)]])
  const below = await backdrop(photo.width, photo.height)
  layOver(below, cut)
  await writeWhole([[options.out, await pngOf(below)]])
}

function number(name: string, value: string | undefined, least: number, most: number, usual: number): number {
  if (value === undefined) return usual
  const given = Number(value)
  if (value.trim() === '' || !(given >= least && given <= most))
    throw new Unusable(`${name}: takes a number from ${least} to ${most}, not ${value}.`)
  return given
}

/** A colour, or a picture scaled to cover the photo. */
async function readBackdrop(value: string): Promise<(width: number, height: number) => Promise<Picture>> {
  const pixels = async (image: Sharp, width: number, height: number): Promise<Picture> => ({
    width,
    height,
    data: new Uint8ClampedArray(await image.ensureAlpha().raw().toBuffer()),
  })
  const hex = /^#([0-9a-f]{6})$/i.exec(value)
  if (hex)
    return (width, height) =>
      pixels(sharp({ create: { width, height, channels: 3, background: value } }), width, height)
  if (value.startsWith('#'))
    throw new Unusable(`--backdrop: takes a colour as #rrggbb or a picture file, not ${value}.`)
  const picture = await readPhoto(value)
  return (width, height) =>
    pixels(
      sharp(picture.data, raw(4, picture)).flatten({ background: '#ffffff' }).resize(width, height, { fit: 'cover' }),
      width,
      height,
    )
}
