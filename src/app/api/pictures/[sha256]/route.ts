import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { shownFile } from '@/server/assets'
import { handle } from '@/server/respond'

export const GET = handle<{ sha256: string }>(async (_, { sha256 }) => {
  const { path, mediaType, bytes } = await shownFile(sha256)
  const body = Readable.toWeb(createReadStream(path)) as ReadableStream
  return new Response(body, {
    headers: {
      'content-type': mediaType,
      'content-length': String(bytes),
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
})
