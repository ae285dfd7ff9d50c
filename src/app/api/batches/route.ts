import { createBatch, listBatches, PLAN_BYTES } from '@/server/batches/batches'
import { BatchInput, checkInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ batches: await listBatches() }))
export const POST = handle(async (request) => {
  const { id, name, plan } = await checkInput(BatchInput, await readJson(request, PLAN_BYTES))
  await createBatch(id, name, plan)
  return { id }
})
