import { number, uuid } from '@/server/address'
import { madeFile } from '@/server/batches/made'
import { asFile, handle, sendStored } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string; number: string }>(async (_, params) => {
  const { key, name, mediaType } = await madeFile(uuid(params.id, 'batch'), number(params.number, 'picture'))
  return sendStored(key, 'picture', asFile(name, mediaType))
})
