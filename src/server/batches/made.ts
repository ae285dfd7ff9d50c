/** What was made of a batch's pictures, and projects in which one is mended. */
import { randomUUID } from 'node:crypto'
import { and, asc, eq, gt, isNull } from 'drizzle-orm'
import { ROWS_AT_ONCE } from '@/document/batchRows'
import { FORMATS } from '@/document/fileFormats'
import { database } from '../database/connection'
import { batchPicture } from '../database/schema'
import { plainName } from '../fileNames'
import { notFound, Problem } from '../problems'
import { createProject } from '../projects'
import { KEYS } from '../storage/keys'
import { batchOf } from './batches'
import { projectOfPicture } from './mend'

async function pictureOf(id: string, number: number): Promise<typeof batchPicture.$inferSelect> {
  const [row] = await database()
    .select()
    .from(batchPicture)
    .where(and(eq(batchPicture.batch, id), eq(batchPicture.number, number)))
  if (!row) throw notFound('picture')
  return row
}
async function madePicture(id: string, number: number): Promise<{ name: string }> {
  const row = await pictureOf(id, number)
  if (row.state !== 'done') throw new Problem(409, 'This picture is not made yet.')
  return row
}
/** The file that was made of a picture. Throws Problem where it is not made yet. */
export async function madeFile(id: string, number: number): Promise<{ key: string; name: string; mediaType: string }> {
  const { name } = await madePicture(id, number),
    { extension, mediaType } = FORMATS[(await batchOf(id)).plan.output.format]
  return { key: KEYS.batched(id, number), name: `${plainName(name)}.${extension}`, mediaType }
}
/** The key of a small picture of it, WebP. */
export async function madeThumbnail(id: string, number: number): Promise<string> {
  await madePicture(id, number)
  return KEYS.batchedThumbnail(id, number)
}

/** The project in which a picture is mended; made when first asked for. Its mask is taken when the picture is made again. */
export async function mendPicture(id: string, number: number): Promise<string> {
  const row = await pictureOf(id, number)
  if (row.project) return row.project
  const { plan } = await batchOf(id),
    project = randomUUID()
  let count = 0
  await createProject(
    project,
    projectOfPicture(
      plan,
      { asset: row.asset, width: row.width, height: row.height, name: row.name },
      () => `b${++count}`,
    ),
  )
  const [taken] = await database()
    .update(batchPicture)
    .set({ project })
    .where(and(eq(batchPicture.batch, id), eq(batchPicture.number, number), isNull(batchPicture.project)))
    .returning({ project: batchPicture.project })
  return taken?.project ?? (await pictureOf(id, number)).project!
}

/** All that is done, in order, some at a time. */
export async function* donePictures(id: string): AsyncGenerator<{ number: number; name: string; bytes: number }> {
  for (let after = 0; ;) {
    const rows = await database()
      .select({ number: batchPicture.number, name: batchPicture.name, bytes: batchPicture.bytes })
      .from(batchPicture)
      .where(and(eq(batchPicture.batch, id), eq(batchPicture.state, 'done'), gt(batchPicture.number, after)))
      .orderBy(asc(batchPicture.number))
      .limit(ROWS_AT_ONCE)
    if (!rows.length) return
    for (const row of rows) yield { ...row, bytes: row.bytes ?? 0 }
    after = rows.at(-1)!.number
  }
}
