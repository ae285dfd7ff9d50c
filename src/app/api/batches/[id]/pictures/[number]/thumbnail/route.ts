import { number, uuid } from '@/server/address'
import { madeThumbnail } from '@/server/batches/made'
import { handle, sendStored } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** Its address says which try it is, so it may be kept. */
export const GET = handle<{ id: string; number: string }>(async (_, params) => {
  const key = await madeThumbnail(uuid(params.id, 'batch'), number(params.number, 'picture'))
  return sendStored(key, 'picture', { 'content-type': 'image/webp', 'cache-control': 'private, max-age=3600' })
})
