/** A file that is sent, onto this machine's disk: memory does not grow with it. */
import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Problem } from './problems'

export interface Receiving {
  readonly name: string
  /** Bytes. */
  readonly most: number
  /** A longer one is read on to this length, so that its sender gets the sentence and not a broken connection; absent: it is not. */
  readonly readOn?: number
  readonly tooLarge: (bytes: number) => string
  /** Is shown every part that is kept. */
  readonly part?: (chunk: Buffer) => void
}

/** @param file where it is to lie. @returns how long it is, bytes. Throws Problem for one that is empty or too long */
export async function receive(
  body: ReadableStream<Uint8Array> | null,
  file: string,
  { name, most, readOn = most, tooLarge, part }: Receiving,
): Promise<number> {
  let bytes = 0
  if (body)
    await pipeline(
      Readable.fromWeb(body as never),
      async function* (source: AsyncIterable<Buffer>) {
        for await (const chunk of source) {
          bytes += chunk.length
          if (bytes > readOn) throw new Problem(413, tooLarge(bytes))
          if (bytes > most) continue
          part?.(chunk)
          yield chunk
        }
      },
      createWriteStream(file),
    )
  if (bytes === 0) throw new Problem(422, `“${name}” is empty.`)
  if (bytes > most) throw new Problem(413, tooLarge(bytes))
  return bytes
}
