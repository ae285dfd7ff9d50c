/** What a batch made as one zip, written while it is read: memory does not grow with the number of pictures. */
import { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { type BatchPlan } from '@/document/batchPlan'
import { FORMATS } from '@/document/fileFormats'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { namesInFolder } from '../fileNames'
import { donePictures } from './made'

export function zipOf(id: string, { output }: BatchPlan): ReadableStream {
  const zip = new ZipFile(),
    nameOf = namesInFolder(),
    out = zip.outputStream as unknown as Readable
  // Whoever reads may go away in the middle of a file.
  let leave = () => {}
  out.once('close', () => leave())
  const fill = async () => {
    for await (const { number, name } of donePictures(id)) {
      const found = await storage().open(KEYS.batched(id, number))
      if (!found) continue
      const ended = new Promise<void>((resolve, reject) => {
        found.stream.once('end', resolve)
        found.stream.once('error', reject)
        leave = resolve
      })
      zip.addReadStream(found.stream, nameOf(name, FORMATS[output.format].extension), { compress: false })
      await ended // one file is open at a time
      if (out.destroyed) {
        found.stream.destroy()
        return
      }
    }
    zip.end()
  }
  fill().catch((error: unknown) => out.destroy(error instanceof Error ? error : new Error(String(error))))
  return Readable.toWeb(out) as ReadableStream
}
