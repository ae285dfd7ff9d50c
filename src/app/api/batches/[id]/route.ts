import { uuid } from '@/server/address'
import { batchOf, changeBatch, PLAN_BYTES, removeBatch } from '@/server/batches/batches'
import { BatchChangeInput, checkInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>((_, { id }) => batchOf(uuid(id, 'batch')))
export const PATCH = handle<{ id: string }>(async (request, { id }) =>
  changeBatch(uuid(id, 'batch'), await checkInput(BatchChangeInput, await readJson(request, PLAN_BYTES))),
)
export const DELETE = handle<{ id: string }>((_, { id }) => removeBatch(uuid(id, 'batch')))
