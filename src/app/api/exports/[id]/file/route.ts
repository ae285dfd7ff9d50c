import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { exportResult } from '@/server/exports/jobs'
import { handle } from '@/server/respond'
import { uuid } from '@/server/address'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) => {
  const { file, name, mediaType, bytes } = exportResult(uuid(id, 'export'))
  return new Response(Readable.toWeb(createReadStream(file)) as ReadableStream, {
    headers: {
      'content-type': mediaType,
      'content-length': String(bytes),
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'no-store',
    },
  })
})
