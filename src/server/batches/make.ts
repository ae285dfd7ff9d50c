/** Makes one picture of a batch, in a worker's thread. */
import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { performance } from 'node:perf_hooks'
import { type Crew } from '@/core/parallel/crew'
import { type Picture } from '@/core/raster/picture'
import { type BatchMade } from '../jobs/batchJobs'
import { RESULT, type Task, THUMBNAIL } from '../jobs/task'
import { rawOf } from '../pictures/encode'
import { PictureError, readPicture } from '../pictures/read'
import { THUMBNAIL_SIDE } from '../pictures/thumbnails'
import { recordsOf } from '../projects'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { mendedPlan } from './mend'
import { pictureByPlan } from './pictureByPlan'

type BatchTask = Extract<Task, { kind: 'batch' }>

export async function makeBatchPicture(
  task: BatchTask,
  crew: Crew,
  progress: (fraction: number) => void,
): Promise<BatchMade> {
  const began = performance.now()
  await mkdir(task.folder, { recursive: true })
  const plan = task.project === null ? task.plan : mendedPlan(task.plan, await recordsOf(task.project)),
    { result, picture } = await pictureByPlan(await bring(task.photo, task.name), plan, bring, crew, progress)
  await picture.toFile(join(task.folder, RESULT))
  await rawOf(result.picture)
    .resize(THUMBNAIL_SIDE, THUMBNAIL_SIDE, { fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 82 })
    .toFile(join(task.folder, THUMBNAIL))
  const { selected, doubt, notes } = result
  return {
    selected,
    doubt,
    note: notes.length ? notes.join(' ') : null,
    ms: Math.round(performance.now() - began),
  }
}

/** A picture of the server's. Throws PictureError. */
async function bring(asset: string, name = asset.slice(0, 8)): Promise<Picture> {
  const file = await storage().local(KEYS.picture(asset))
  if (file === undefined) throw new PictureError(`The picture “${name}” is not stored here any more.`)
  return readPicture(file, name)
}
