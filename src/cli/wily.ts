/** The command line: `wily select`, `wily cutout` and `wily score`. Exit 0 done, 2 unusable input (one line on stderr). Needs no database. */
import { readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { basename, dirname, extname, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import sharp, { type Sharp } from 'sharp'
import { cutOut, layOver } from '@/core/compose/cutOut'
import { matteErrors } from '@/core/matting/errors'
import { JsonError, readJson } from '@/core/formats/json'
import { parseRecipe, RecipeError } from '@/core/formats/recipe'
import { IDENTITY } from '@/core/raster/affine'
import { type Matte, type Picture, shares } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { coverageOf, NoSuchPicture } from '@/core/select/image'
import { NoSuchLayer } from '@/core/select/layer'
import { NoSuchSelection } from '@/core/select/saved'
import { foldSteps } from '@/core/select/steps'
import { PictureError, readPicture } from '@/server/pictures/read'

class Unusable extends Error {}

const USAGE = `usage:
  wily select <photo> --recipe <recipe.json> --out <matte.png> [--report <report.json>]
  wily cutout <photo> --recipe <recipe.json> --out <cutout.png> [--backdrop "#rrggbb" | <picture>] [--fringe 0-1] [--rim <px>]
  wily score <matte> <truth> [--trimap <trimap>]
The recipe's format is described in docs/recipe.md.`

/** Bytes of step results kept while one recipe runs. */
const MEMORY = 1 << 30

interface Timings {
  decode: number
  solve: number
  encode: number
}
interface Selected {
  photo: Picture
  matte: Matte
  ms: Timings
  steps: { kind: string; ms: number; note?: string }[]
}

async function selectFrom(photoFile: string, recipeFile: string): Promise<Selected> {
  const recipe = await readRecipe(recipeFile)
  const images = new Map<string, Picture>()
  // A picture that a step names is a file, looked for from the recipe's folder.
  for (const step of recipe.steps)
    if ((step.kind === 'image' || step.kind === 'trimap') && !images.has(step.asset))
      images.set(step.asset, await readPhoto(resolve(dirname(recipeFile), step.asset)))
  const ms: Timings = { decode: 0, solve: 0, encode: 0 }
  let started = performance.now()
  const photo = await readPhoto(photoFile)
  ms.decode = performance.now() - started
  started = performance.now()
  const steps: Selected['steps'] = []
  const matte = foldSteps(recipe.steps, sceneOf(photo, 'picture', images), {
    ...plainContext(MEMORY),
    stepDone: (_, kind, milliseconds, _remembered, note) => {
      steps.push({ kind, ms: milliseconds, ...(note ? { note } : {}) })
    },
  })
  ms.solve = performance.now() - started
  return { photo, matte, ms, steps }
}

async function readPhoto(file: string): Promise<Picture> {
  if (!(await stat(file).catch(() => null))?.isFile()) throw new Unusable(`${file}: there is no such picture file.`)
  return readPicture(file, basename(file))
}

async function readRecipe(file: string) {
  let json: unknown
  try {
    json = readJson(await readFile(file))
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    throw new Unusable(
      `${file}: ${error instanceof JsonError ? error.message : code === 'ENOENT' ? 'there is no such recipe file' : `cannot be read (${code ?? 'error'})`}.`,
    )
  }
  try {
    return parseRecipe(json)
  } catch (error) {
    throw error instanceof RecipeError ? new Unusable(`${file}: ${error.message}`) : error
  }
}

/** All files are written beside their places first and moved there whole: nothing is half-written, and on failure nothing is written. */
async function writeWhole(files: readonly (readonly [file: string, bytes: Buffer | string])[]): Promise<void> {
  const beside = (file: string) => `${file}.${process.pid}.part`
  let current = ''
  try {
    for (const [file, bytes] of files) {
      current = file
      await writeFile(beside(file), bytes)
    }
    for (const [file] of files) {
      current = file
      await rename(beside(file), file)
    }
  } catch (error) {
    await Promise.all(files.map(([file]) => rm(beside(file), { force: true })))
    throw new Unusable(`${current}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'error'}).`)
  }
}

const raw = (channels: 1 | 4, { width, height }: Picture | Matte) => ({ raw: { width, height, channels } })
const pngOf = (picture: Picture) => sharp(picture.data, raw(4, picture)).png({ compressionLevel: 6 }).toBuffer()

async function select(photoFile: string, options: Options): Promise<void> {
  if (options.report !== undefined && resolve(options.report) === resolve(options.out))
    throw new Unusable('--report and --out name the same file; nothing was written.')
  const { matte, ms, steps } = await selectFrom(photoFile, options.recipe)
  const started = performance.now()
  const png = await sharp(matte.data, raw(1, matte)).toColourspace('b-w').png({ compressionLevel: 6 }).toBuffer()
  ms.encode = performance.now() - started
  const report = JSON.stringify({
    width: matte.width,
    height: matte.height,
    selected: shares(matte).selected,
    ms,
    steps,
  })
  for (const { kind, note } of steps) if (note) process.stdout.write(`${kind}: ${note}\n`)
  await writeWhole([[options.out, png], ...(options.report ? [[options.report, `${report}\n`] as const] : [])])
}

async function cutout(photoFile: string, options: Options): Promise<void> {
  const backdrop = options.backdrop === undefined ? undefined : await readBackdrop(options.backdrop)
  const { photo, matte } = await selectFrom(photoFile, options.recipe)
  const cut = cutOut(
    photo,
    { levels: [matte], toCanvas: IDENTITY },
    { amount: number('--fringe', options.fringe, 0, 1, 1), rim: number('--rim', options.rim, 0, 10, 0) },
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

/** Prints how far a matte is from the truth, one measure a line. */
async function score(files: readonly string[], trimap: string | undefined): Promise<void> {
  if (files.length !== 2)
    throw new Unusable(`score takes a matte and the truth, not ${files.length} file${files.length === 1 ? '' : 's'}.`)
  const grey = async (file: string) => coverageOf(await readPhoto(file), 'luminance')
  const [matte, truth] = [await grey(files[0]), await grey(files[1])]
  let errors
  try {
    errors = matteErrors(matte, truth, trimap === undefined ? undefined : await grey(trimap))
  } catch (error) {
    throw error instanceof RangeError ? new Unusable(error.message) : error
  }
  const { sad, mse, gradient, connectivity, iou, pixels } = errors
  process.stdout.write(
    `sum of absolute differences  ${sad.toFixed(3)} thousand\nmean squared error           ${mse.toFixed(5)}\ngradient error               ${gradient.toFixed(3)} thousand\nconnectivity error           ${connectivity.toFixed(3)} thousand\nintersection over union      ${iou.toFixed(4)}\npixels compared              ${pixels}\n`,
  )
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

interface Options {
  recipe: string
  out: string
  report?: string
  backdrop?: string
  fringe?: string
  rim?: string
}

const OPTIONS = {
  select: ['recipe', 'out', 'report'],
  cutout: ['recipe', 'out', 'backdrop', 'fringe', 'rim'],
  score: ['trimap'],
} as const

async function main(args: string[]): Promise<void> {
  const [command, ...rest] = args
  if (command !== 'select' && command !== 'cutout' && command !== 'score')
    throw new Unusable(
      command === undefined || command === '--help'
        ? USAGE
        : `“${command}” is not a command: there are select, cutout and score.`,
    )
  let parsed
  try {
    parsed = parseArgs({
      args: rest,
      allowPositionals: true,
      options: Object.fromEntries(OPTIONS[command].map((name) => [name, { type: 'string' as const }])),
    })
  } catch (error) {
    throw new Unusable((error as Error).message.split('\n')[0])
  }
  const { values, positionals } = parsed
  if (command === 'score') return score(positionals, values.trimap)
  if (positionals.length !== 1) throw new Unusable(`${command} takes one photo, not ${positionals.length}.`)
  for (const name of ['recipe', 'out'] as const) if (!values[name]) throw new Unusable(`${command} needs --${name}.`)
  if (extname(values.out!).toLowerCase() !== '.png') throw new Unusable(`--out: takes a .png file, not ${values.out}.`)
  await (command === 'select' ? select : cutout)(positionals[0], values as unknown as Options)
}

main(process.argv.slice(2)).catch((error: unknown) => {
  if (
    error instanceof Unusable ||
    error instanceof PictureError ||
    error instanceof NoSuchSelection ||
    error instanceof NoSuchLayer ||
    error instanceof NoSuchPicture
  ) {
    process.stderr.write(`${error.message}\n`)
    process.exitCode = 2
  } else {
    process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`)
    process.exitCode = 1
  }
})
