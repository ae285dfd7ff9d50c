/** Small pictures of pictures: made when they are first asked for, kept beside them. */
import { randomUUID } from 'node:crypto'
import { readFile, rename, rm } from 'node:fs/promises'
import { alone, shownFile } from '../assets'
import { thumbnailFile } from '../files'
import { shrunk } from './read'
import { inTurn } from './turns'

/** px of the longer side. */
const LONGEST = 320

/** WebP. Throws Problem when there is no such picture. */
export async function thumbnailOf(sha256: string): Promise<Buffer> {
  const { path } = await shownFile(sha256),
    file = thumbnailFile(sha256),
    known = () => readFile(file).catch(() => null)
  return (
    (await known()) ??
    alone(sha256, async () => {
      const made = await known()
      if (made) return made
      const beside = `${file}.${randomUUID()}`
      try {
        await inTurn(() => shrunk(path, LONGEST, beside))
        await rename(beside, file)
        return await readFile(file)
      } finally {
        await rm(beside, { force: true })
      }
    })
  )
}
