/** What a batch made as files in a folder of the server's own: some at a time, each whole; what is there already is written anew. */
import { createWriteStream } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { FORMATS } from '@/document/fileFormats'
import { namesInFolder, plainName } from '../fileNames'
import { dataFolder } from '../storage/dataFolder'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { batchOf } from './batches'
import { donePictures } from './made'

/** Written by one call, which reads the names of all that come before. */
const AT_A_TIME = 100
const PART = '.part'

export interface Delivered {
  readonly folder: string
  /** The number of the last picture that was written: the next call goes on after it. Null: all are there. */
  readonly after: number | null
  /** How many files this call wrote. */
  readonly written: number
}

/** Where results go: WILY_RESULTS, or a folder beside the pictures. A batch has a folder of its own in it. */
export const resultsFolder = (): string =>
  process.env.WILY_RESULTS
    ? resolve(/* turbopackIgnore: true */ process.env.WILY_RESULTS)
    : join(dataFolder(), 'results-of-batches')

/** @param after the number of the picture before the first. Throws Problem, or what the file system says */
export async function deliver(id: string, after: number): Promise<Delivered> {
  const { name, plan } = await batchOf(id),
    folder = join(resultsFolder(), `${plainName(name)} ${id.slice(0, 8)}`),
    nameOf = namesInFolder()
  await mkdir(folder, { recursive: true })
  let written = 0
  for await (const { number, name: picture } of donePictures(id)) {
    // Names depend on those before.
    const file = join(folder, nameOf(picture, FORMATS[plan.output.format].extension))
    if (number <= after) continue
    if (written >= AT_A_TIME) return { folder, after: number - 1, written }
    const found = await storage().open(KEYS.batched(id, number))
    if (!found) continue
    try {
      await pipeline(found.stream, createWriteStream(file + PART))
      await rename(file + PART, file)
    } catch (error) {
      await rm(file + PART, { force: true })
      throw error
    }
    written++
  }
  return { folder, after: null, written }
}
