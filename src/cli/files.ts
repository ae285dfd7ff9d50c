/** What every command reads and writes, and what it says of what it cannot use. */
import { readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { basename, extname } from 'node:path'
import sharp from 'sharp'
import { JsonError, readJson } from '@/core/formats/json'
import { type Matte, type Picture } from '@/core/raster/picture'
import { readPicture } from '@/server/pictures/read'

/** Said in one line; exit 2. */
export class Unusable extends Error {}

/** Bytes of step results kept while one command runs. */
export const MEMORY = 1 << 30

export async function readPhoto(file: string): Promise<Picture> {
  if (!(await stat(file).catch(() => null))?.isFile()) throw new Unusable(`${file}: there is no such picture file.`)
  return readPicture(file, basename(file))
}

/** @param what the file is: "recipe" */
export async function readJsonFile(file: string, what: string): Promise<unknown> {
  try {
    return readJson(await readFile(file))
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    throw new Unusable(
      `${file}: ${error instanceof JsonError ? error.message : code === 'ENOENT' ? `there is no such ${what} file` : `cannot be read (${code ?? 'error'})`}.`,
    )
  }
}

/** All files are written beside their places first and moved there whole: nothing is half-written, and on failure nothing is written. */
export async function writeWhole(files: readonly (readonly [file: string, bytes: Buffer | string])[]): Promise<void> {
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

export const raw = (channels: 1 | 4, { width, height }: Picture | Matte) => ({ raw: { width, height, channels } })
export const pngOf = (picture: Picture) => sharp(picture.data, raw(4, picture)).png({ compressionLevel: 6 }).toBuffer()

/** A picture as the file's name asks for: PNG or JPEG. */
export async function pictureBytes(file: string, picture: Picture): Promise<Buffer> {
  if (extname(file).toLowerCase() === '.png') return pngOf(picture)
  return sharp(picture.data, raw(4, picture))
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toBuffer()
}

/** Throws what a name that ends in none of these says. */
export function needsEnding(option: string, file: string, endings: readonly string[]): void {
  if (!endings.includes(extname(file).toLowerCase()))
    throw new Unusable(`${option}: takes a ${endings.join(' or ')} file, not ${file}.`)
}
