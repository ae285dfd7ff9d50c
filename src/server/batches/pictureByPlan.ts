/** What a batch's plan makes of one photo; workers and the command line ask alike. */
import sharp, { type Sharp } from 'sharp'
import { LruCache } from '@/core/cache/lruCache'
import { type Crew } from '@/core/parallel/crew'
import { type Picture, type Size } from '@/core/raster/picture'
import { type BatchPlan } from '@/document/batchPlan'
import { batchPicture, type BatchResult } from '@/engine/batchPicture'
import { encoded, rawOf } from '../pictures/encode'

/** Results of steps kept while one picture is made. */
const MEMORY = 256 << 20

/** What a plan makes of a photo, ready to be written. @param read pictures that the plan names */
export async function pictureByPlan(
  photo: Picture,
  plan: BatchPlan,
  read: (name: string) => Promise<Picture>,
  crew: Crew,
  progress: (fraction: number) => void,
): Promise<{ result: BatchResult; picture: Sharp }> {
  const { backdrop } = plan.output,
    result = await batchPicture(
      photo,
      plan,
      {
        images: await imagesOf(plan, read),
        backdrop: backdrop === undefined ? undefined : (size) => backdropOf(backdrop, size, read),
      },
      { memory: new LruCache(MEMORY), check: progress },
      crew,
    )
  return { result, picture: encoded(result.picture, { ...plan.output, background: '#ffffff' }) }
}

/** Pictures that steps name. */
async function imagesOf(plan: BatchPlan, read: (name: string) => Promise<Picture>): Promise<Map<string, Picture>> {
  const images = new Map<string, Picture>()
  for (const step of plan.steps)
    if ('asset' in step && !images.has(step.asset)) images.set(step.asset, await read(step.asset))
  return images
}

/** A colour, or a picture that covers, opaque. */
async function backdropOf(
  value: string,
  { width, height }: Size,
  read: (name: string) => Promise<Picture>,
): Promise<Picture> {
  let image
  if (value.startsWith('#')) image = sharp({ create: { width, height, channels: 3, background: value } })
  else {
    const picture = await read(value)
    image = rawOf(picture).flatten({ background: '#ffffff' }).resize(width, height, { fit: 'cover' })
  }
  return { width, height, data: new Uint8ClampedArray(await image.ensureAlpha().raw().toBuffer()) }
}
