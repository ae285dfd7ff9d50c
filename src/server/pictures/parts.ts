/**
 * Many large pictures at once, in bounded memory: each is decoded once into a file of plain pixels, of which parts are read when they are looked at.
 * Held in memory are the coarser mip levels (a twelfth of a picture) and one picture that was asked for whole.
 */
import { closeSync, createWriteStream, existsSync, openSync, readSync } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { type DecodedPicture } from '@/core/compose/nodes'
import { type Box } from '@/core/raster/content'
import { halvePicture, levelCount, picturePyramid } from '@/core/raster/levels'
import { type Task } from '@/core/parallel/crew'
import { isOpaque, type Picture, type Size } from '@/core/raster/picture'
import { type Draw, drawInParts, type Drawing, type PictureParts, partsTask } from '@/engine/drawInParts'
import { PictureError, pixelStream } from './read'

/** Rows read at a time while the coarser levels are made; a multiple of four. */
const ROWS = 256

/** A decoded picture: its plain pixels in a file, its coarser levels in memory that every thread sees. */
interface Stored extends Size {
  readonly raw: string
  readonly coarse: readonly Picture[]
  readonly opaque: boolean
}
type StoredPictures = ReadonlyMap<string, Stored>

const inShared = (bytes: number) => new SharedArrayBuffer(bytes)

export class PictureFiles {
  private readonly stored = new Map<string, Stored>()
  /** Draws from these, each thread with its own view of the files. */
  readonly draw: Draw = (drawing, crew, check) =>
    drawInParts(drawFromFiles, { ...drawing, stored: this.stored }, crew, check)
  private readonly opened: OpenedFiles
  private whole: { asset: string; picture: DecodedPicture } | null = null

  private constructor(private readonly folder: string) {
    this.opened = new OpenedFiles(this.stored)
  }
  /** @param folder for the decoded pixels; taken away by `close` */
  static async create(folder: string): Promise<PictureFiles> {
    await mkdir(folder, { recursive: true })
    return new PictureFiles(folder)
  }

  /** Decodes a picture file. Throws PictureError, also when it is not there any more. */
  async add(asset: string, path: string | undefined): Promise<void> {
    if (this.stored.has(asset)) return
    if (path === undefined || !existsSync(path))
      throw new PictureError(
        `A picture of this project (${asset.slice(0, 8)}…) is not stored here any more; add it again, or remove the layers that show it.`,
      )
    const { stream, width, height } = await pixelStream(path, asset.slice(0, 8))
    const raw = join(this.folder, asset)
    await pipeline(stream, createWriteStream(raw))
    const file = openSync(raw, 'r')
    let opaque = true
    const quarter: Size = { width: Math.ceil(Math.ceil(width / 2) / 2), height: Math.ceil(Math.ceil(height / 2) / 2) }
    const data = new Uint8ClampedArray(inShared(quarter.width * quarter.height * 4))
    for (let y = 0; y < height; y += ROWS) {
      const strip = rows(file, { width, height: Math.min(ROWS, height - y) }, y * width * 4)
      opaque &&= isOpaque(strip)
      data.set(halvePicture(halvePicture(strip)).data, (y / 4) * quarter.width * 4)
      await new Promise(setImmediate) // whoever tells how far it is has a turn
    }
    closeSync(file)
    this.stored.set(asset, {
      raw,
      width,
      height,
      opaque,
      coarse: picturePyramid({ ...quarter, data }, opaque, inShared),
    })
  }

  /** @see PictureParts.part */
  part = (asset: string, box: Box, half: boolean): DecodedPicture => this.opened.part(asset, box, half)
  begin = (): void => this.opened.begin()

  /** All of a picture; one is held at a time. */
  all = (asset: string): DecodedPicture => {
    if (this.whole?.asset === asset) return this.whole.picture
    const { width, height, coarse, opaque } = this.opened.of(asset)
    this.whole = null
    const full = rows(
      this.opened.file(asset),
      { width, height },
      0,
      new Uint8ClampedArray(inShared(width * height * 4)),
    )
    this.whole = {
      asset,
      picture: { levels: [full, halvePicture(full, inShared, opaque), ...coarse].slice(0, levelCount(full)), opaque },
    }
    return this.whole.picture
  }

  async close(): Promise<void> {
    this.opened.close()
    await rm(this.folder, { recursive: true, force: true })
  }
}

/** The decoded pictures as one thread reads them. */
class OpenedFiles implements PictureParts {
  private readonly files = new Map<string, number>()

  constructor(private readonly stored: StoredPictures) {}

  /** Parts given out before are no longer looked at: their memory is used again. */
  begin = (): void => {
    this.used = 0
  }
  private readonly buffers: ArrayBuffer[] = []
  private used = 0
  private readonly allocate = (bytes: number): ArrayBuffer => {
    const at = this.used++
    if (!this.buffers[at] || this.buffers[at].byteLength < bytes) this.buffers[at] = new ArrayBuffer(bytes)
    return this.buffers[at]
  }

  /** A part at full size, on even pixels, with its coarser levels. Valid until the next `begin`. */
  part = (asset: string, box: Box, half: boolean): DecodedPicture => {
    const { width, height, coarse, opaque } = this.of(asset),
      file = this.file(asset)
    const even = (v: number) => Math.floor(v / 2) * 2
    const left = even(Math.min(Math.max(0, box.x), width - 1)),
      top = even(Math.min(Math.max(0, box.y), height - 1))
    const right = Math.max(left + 1, Math.min(width, box.x + box.width)),
      bottom = Math.max(top + 1, Math.min(height, box.y + box.height))
    const size: Size = { width: right - left, height: bottom - top }
    const data = new Uint8ClampedArray(this.allocate(size.width * size.height * 4), 0, size.width * size.height * 4)
    const fine =
      size.width === width ? rows(file, size, top * width * 4, data) : columns(file, size, width, left, top, data)
    const second = half ? { ...halvePicture(fine, this.allocate, opaque), left: left / 2, top: top / 2 } : coarse[0] // not looked at
    return {
      levels: [{ ...fine, left, top }, second, ...coarse].slice(0, levelCount({ width, height })),
      opaque,
      size: { width, height },
    }
  }

  of(asset: string): Stored {
    const stored = this.stored.get(asset)
    if (!stored) throw new Error('The picture is not open.')
    return stored
  }
  file(asset: string): number {
    let file = this.files.get(asset)
    if (file === undefined) this.files.set(asset, (file = openSync(this.of(asset).raw, 'r')))
    return file
  }
  close(): void {
    for (const file of this.files.values()) closeSync(file)
  }
}

export const drawFromFiles: Task<Drawing<StoredPictures>, Box> = partsTask(
  'parts of a composition of files',
  (stored) => new OpenedFiles(stored),
)

function rows(
  file: number,
  { width, height }: Size,
  from: number,
  data: Uint8ClampedArray = new Uint8ClampedArray(width * height * 4),
): Picture {
  for (let done = 0; done < data.length;) {
    const read = readSync(file, data, done, data.length - done, from + done)
    if (read === 0) throw new Error('The decoded picture ends early.')
    done += read
  }
  return { width, height, data }
}
function columns(
  file: number,
  { width, height }: Size,
  stride: number,
  left: number,
  top: number,
  data: Uint8ClampedArray,
): Picture {
  for (let y = 0; y < height; y++)
    if (readSync(file, data, y * width * 4, width * 4, ((top + y) * stride + left) * 4) !== width * 4)
      throw new Error('The decoded picture ends early.')
  return { width, height, data }
}
