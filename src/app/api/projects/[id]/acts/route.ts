import { ActsInput, checkInput } from '@/server/inputs'
import { storeActs } from '@/server/projects'
import { handle, readJson } from '@/server/respond'
import { uuid } from '@/server/uuid'

export const POST = handle<{ id: string }>(async (request, { id }) => {
  const input = await checkInput(ActsInput, await readJson(request))
  await storeActs(uuid(id, 'project'), input.acts, input.head)
})
