import { uuid } from '@/server/address'
import { exportResult } from '@/server/exports/exports'
import { asFile, handle, sendStored } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) => {
  const { key, name, mediaType } = await exportResult(uuid(id, 'export'))
  return sendStored(key, 'export', asFile(name, mediaType))
})
