/** Small pictures of pictures: made when they are first asked for, kept beside them. */
import { readFile, rm } from 'node:fs/promises'
import { alone, shownPicture } from '../assets'
import { notFound } from '../problems'
import { KEYS } from '../storage/keys'
import { scratch } from '../storage/scratch'
import { storage } from '../storage/store'
import { shrunk } from './read'
import { inTurn } from './turns'

/** px of the longer side. */
export const THUMBNAIL_SIDE = 320

/** WebP. Throws Problem when there is no such picture. */
export async function thumbnailOf(sha256: string): Promise<Buffer> {
  const { key: shown } = await shownPicture(sha256),
    key = KEYS.thumbnail(sha256),
    known = async () => {
      const file = await storage().local(key)
      return file === undefined ? null : readFile(file)
    }
  return (
    (await known()) ??
    alone(sha256, async () => {
      const made = await known()
      if (made) return made
      const picture = await storage().local(shown)
      if (picture === undefined) throw notFound('picture')
      const file = await scratch()
      try {
        await inTurn(() => shrunk(picture, THUMBNAIL_SIDE, file))
        const webp = await readFile(file)
        await storage().put(key, file)
        return webp
      } finally {
        await rm(file, { force: true })
      }
    })
  )
}
