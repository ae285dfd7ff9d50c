/** wily replaceSky: another sky for a photo, by what both measure; the same records as the page makes. */
import { createHash } from 'node:crypto'
import { basename, extname, resolve } from 'node:path'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture } from '@/core/compose/nodes'
import { parseStep } from '@/core/formats/recipe'
import { measure } from '@/core/match/measure'
import { type NewSky, newSkyOf, skyPictureOf } from '@/core/match/newSky'
import { picturePyramid } from '@/core/raster/levels'
import { boundsOf, isOpaque, type Matte, type Picture, shares } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { skyIn } from '@/core/select/sky'
import { type StepOfKind } from '@/core/steps/registry'
import { projectOf } from '@/document/edits'
import { edited } from '@/document/history'
import { replaceSky } from '@/document/newSky'
import { sceneOfProject } from '@/document/tree'
import { Studio } from '@/engine/studio'
import { MEMORY, pictureBytes, readJsonFile, readPhoto, Unusable, writeWhole } from './files'
import { stepsFrom, told } from './measure'

export interface ReplaceSkyOptions {
  sky: string
  out: string
  recipe?: string
  values?: string
  report?: string
}

/** Less of the picture than this is no sky that could be replaced; more than that leaves no land. */
const LEAST_SKY = 0.005,
  MOST_SKY = 0.995

export async function replaceSkyOf(photoFile: string, options: ReplaceSkyOptions): Promise<void> {
  if (options.report !== undefined && resolve(options.report) === resolve(options.out))
    throw new Unusable('--report and --out name the same file; nothing was written.')
  const values = options.values === undefined ? {} : await readValues(options.values),
    { steps: given, images } = await stepsFrom(options.recipe),
    steps = given.map((step) => ('asset' in step ? { ...step, asset: nameOf(step.asset) } : step)),
    photo = await readPhoto(photoFile),
    skyPicture = await readPhoto(options.sky)
  const started = performance.now()
  let count = 0
  const newId = () => `id ${++count}`,
    pictures = new Map<string, DecodedPicture>(
      [...images, [photoFile, photo] as const, [options.sky, skyPicture] as const].map(([file, picture]) => [
        nameOf(file),
        decoded(picture),
      ]),
    ),
    record = ({ width, height }: Picture, file: string) => ({
      asset: nameOf(file),
      width,
      height,
      name: basename(file, extname(file)),
    }),
    project = projectOf('New sky', record(photo, photoFile), 'photo')
  const studio = new Studio((asset) => {
    const found = pictures.get(asset)
    if (!found) throw new Unusable(`${asset}: there is no such picture.`)
    return found
  }, MEMORY)
  const found = studio.matte(steps, studio.scene(sceneOfProject(project)), () => {}),
    share = shares(found).selected
  if (share < LEAST_SKY) throw new Unusable(`${photoFile}: has no sky that could be replaced; nothing was written.`)
  if (share > MOST_SKY) throw new Unusable(`${photoFile}: is all sky, with no land to keep; nothing was written.`)
  const measured = measure(photo, found),
    planned = planOf(measured, skyPicture, found, options.sky)
  const relight = relightWith(planned, values, options.values)
  const made = edited(
    project,
    replaceSky('photo', record(skyPicture, options.sky), steps, { ...planned, relight }, newId),
  )
  const picture = studio.deliver(made),
    ms = performance.now() - started
  const report = { photo: told(measured), mirrored: planned.mirrored, placement: planned.placement, relight, ms }
  await writeWhole([
    [options.out, await pictureBytes(options.out, picture)],
    ...(options.report ? [[options.report, `${JSON.stringify(report, null, 1)}\n`] as const] : []),
  ])
}

/** Records name pictures by 64 hexadecimal digits; here each file is read once, so its path tells it. */
const nameOf = (file: string): string => createHash('sha256').update(file).digest('hex')

const decoded = (picture: Picture): DecodedPicture => {
  const opaque = isOpaque(picture)
  return { levels: picturePyramid(picture, opaque), opaque }
}

function planOf(measured: ReturnType<typeof measure>, sky: Picture, old: Matte, file: string): NewSky {
  const where = skyIn(sceneOf(sky, 'sky'), parseStep({ kind: 'sky' }) as StepOfKind<'sky'>, plainContext(MEMORY))
  const known = typeof where === 'string' ? null : skyPictureOf(sky, where)
  if (!known)
    throw new Unusable(
      `${file}: is no picture of a sky${typeof where === 'string' ? `, because ${where}` : ''}; nothing was written.`,
    )
  const box = boundsOf(old)!,
    plan = newSkyOf(measured, known, box.y + box.height)
  if (!plan) throw new Unusable('The photo’s sky is too small to be measured; nothing was written.')
  return plan
}

/** Values for the light on the land that stand in for what was measured: any fields of the adjustment "relight". */
async function readValues(file: string): Promise<Record<string, unknown>> {
  const json = await readJsonFile(file, 'values')
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new Unusable(`${file}: must be an object of values, {"tone": 0.8}.`)
  return json as Record<string, unknown>
}
function relightWith({ relight }: NewSky, values: Record<string, unknown>, file = ''): NewSky['relight'] {
  try {
    return parseAdjustment({ ...relight, ...values, kind: 'relight' }, 'values') as NewSky['relight']
  } catch (error) {
    throw error instanceof RangeError ? new Unusable(`${file}: ${error.message}`) : error
  }
}
