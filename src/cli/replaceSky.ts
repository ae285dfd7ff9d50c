/** wily replaceSky: another sky for a photo, by what both measure; the same records as the page makes. */
import { createHash } from 'node:crypto'
import { basename, extname, resolve } from 'node:path'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { RecordError } from '@/core/fields/record'
import { type DecodedPicture } from '@/core/compose/nodes'
import { type NewSky, newSkyOf } from '@/core/match/newSky'
import { picturePyramid } from '@/core/raster/levels'
import { alone, type Crew, seenByAll } from '@/core/parallel/crew'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { projectOf } from '@/document/edits'
import { edited } from '@/document/history'
import { type Step } from '@/core/steps/registry'
import { smallSkyNote } from '@/core/steps/sky'
import { photoAlone, replaceSky, sureWaterSteps } from '@/document/newSky'
import { sceneOfProject } from '@/document/tree'
import { measurePhoto, readSky, whyNoNewSky } from '@/engine/newSky'
import { Studio } from '@/engine/studio'
import { MEMORY, pictureBytes, readJsonFile, readPhoto, Unusable, writeWhole } from './files'
import { helpersFor } from './helpers'
import { stepsFrom, told } from './measure'

export interface ReplaceSkyOptions {
  sky: string
  out: string
  recipe?: string
  water?: string
  values?: string
  report?: string
}

export async function replaceSkyOf(photoFile: string, options: ReplaceSkyOptions): Promise<void> {
  if (options.report !== undefined && resolve(options.report) === resolve(options.out))
    throw new Unusable('--report and --out name the same file; nothing was written.')
  const values = options.values === undefined ? {} : await readValues(options.values),
    photo = await readPhoto(photoFile),
    named = (steps: readonly Step[]) =>
      steps.map((step) => ('asset' in step ? { ...step, asset: nameOf(step.asset) } : step)),
    sky = await stepsFrom(options.recipe, photo),
    water = options.water === undefined ? null : await stepsFrom(options.water, photo),
    steps = named(sky.steps),
    skyPicture = await readPhoto(options.sky)
  const started = performance.now(),
    crew = helpersFor(photo)
  let count = 0
  const newId = () => `id ${++count}`,
    pictures = new Map<string, DecodedPicture>(
      [...sky.images, ...(water?.images ?? []), [photoFile, photo] as const, [options.sky, skyPicture] as const].map(
        ([file, picture]) => [nameOf(file), decoded(picture, crew)],
      ),
    ),
    record = ({ width, height }: Picture, file: string) => ({
      asset: nameOf(file),
      width,
      height,
      name: basename(file, extname(file)),
    }),
    project = projectOf('New sky', record(photo, photoFile), 'photo')
  const studio = new Studio(
    (asset) => {
      const found = pictures.get(asset)
      if (!found) throw new Unusable(`${asset}: there is no such picture.`)
      return found
    },
    MEMORY,
    { crew },
  )
  const context = studio.context(() => {}),
    read = readSky(skyPicture, options.sky, context)
  if (typeof read === 'string') throw new Unusable(`${options.sky}: ${read} Nothing was written.`)
  const photoMeasured = measurePhoto(
      studio.scene({ ...sceneOfProject(project), layers: photoAlone(project.layers, 'photo') }),
      steps,
      context,
    ),
    problem = whyNoNewSky(photoMeasured)
  if (problem) throw new Unusable(`${photoFile}: ${problem} Nothing was written.`)
  const planned = newSkyOf(photoMeasured.measures, read)
  if (!planned) throw new Unusable(`${photoFile}: it has no sky that could be replaced. Nothing was written.`)
  const relight = parseAdjustment({ ...planned.relight, ...values, kind: 'relight' }, 'values') as NewSky['relight']
  const note = smallSkyNote(photoMeasured.measures.skyShare)
  if (note) process.stdout.write(`${photoFile}: ${note}\n`)
  const waterFound = water ? named(water.steps) : sureWaterSteps(photoMeasured.water, newId)
  const made = edited(
    project,
    replaceSky('photo', record(skyPicture, options.sky), steps, { ...planned, relight }, newId, waterFound),
  )
  const picture = studio.deliver(made),
    ms = performance.now() - started
  const report = {
    photo: told(photoMeasured.measures, photoMeasured.water),
    mirrored: planned.mirrored,
    placement: planned.placement,
    relight,
    haze: planned.haze,
    ...(waterFound.length ? { reflection: planned.reflection } : {}),
    ms,
  }
  await writeWhole([
    [options.out, await pictureBytes(options.out, picture)],
    ...(options.report ? [[options.report, `${JSON.stringify(report, null, 1)}\n`] as const] : []),
  ])
}

/** Records name pictures by 64 hexadecimal digits; here each file is read once, so its path tells it. */
const nameOf = (file: string): string => createHash('sha256').update(file).digest('hex')

const decoded = (picture: Picture, crew: Crew = alone): DecodedPicture => {
  const opaque = isOpaque(picture)
  return { levels: picturePyramid({ ...picture, data: seenByAll(crew, picture.data) }, opaque, crew.allocate), opaque }
}

/** Values for the light on the land that stand in for what was measured: any fields of the adjustment "relight". */
async function readValues(file: string): Promise<Record<string, unknown>> {
  const json = await readJsonFile(file, 'values')
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new Unusable(`${file}: must be an object of values, {"tone": 0.8}.`)
  try {
    parseAdjustment({ ...json, kind: 'relight' }, 'values')
  } catch (error) {
    throw error instanceof RecordError ? new Unusable(`${file}: ${error.message}`) : error
  }
  return json as Record<string, unknown>
}
