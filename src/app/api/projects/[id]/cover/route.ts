import { Problem } from '@/server/problems'
import { getCover, setCover } from '@/server/projects'
import { handle, readBody } from '@/server/respond'
import { uuid } from '@/server/address'

export const dynamic = 'force-dynamic'
/** Noise with noisy alpha takes half of it. */
const MOST_BYTES = 2 * 1024 * 1024

export const GET = handle<{ id: string }>(async (_, { id }) => {
  const cover = await getCover(uuid(id, 'project'))
  if (!cover) return new Response(null, { status: 204 })
  return new Response(new Uint8Array(cover), { headers: { 'content-type': 'image/webp', 'cache-control': 'no-cache' } })
})
export const PUT = handle<{ id: string }>(async (request, { id }) => {
  const bytes = Buffer.from(await readBody(request, MOST_BYTES, 'The cover'))
  if (bytes.subarray(0, 4).toString('latin1') !== 'RIFF' || bytes.subarray(8, 12).toString('latin1') !== 'WEBP')
    throw new Problem(422, `A cover is a WebP picture of up to ${MOST_BYTES / 1024 / 1024} MB.`)
  await setCover(uuid(id, 'project'), bytes)
})
