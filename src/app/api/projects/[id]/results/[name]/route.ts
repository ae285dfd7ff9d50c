import { uuid } from '@/server/address'
import { handle, readBody, sendStored } from '@/server/respond'
import { forgetResult, keepResult, RESULT_BYTES, resultName, useResult } from '@/server/results'

export const dynamic = 'force-dynamic'
interface Params extends Record<string, string> {
  id: string
  name: string
}

export const GET = handle<Params>(async (_, { id, name }) => {
  const key = await useResult(uuid(id, 'project'), resultName(name))
  return sendStored(key, 'result', { 'content-type': 'image/png', 'cache-control': 'no-store' })
})
export const PUT = handle<Params>(async (request, { id, name }) => {
  const png = await readBody(request, RESULT_BYTES, 'The result')
  await keepResult(uuid(id, 'project'), resultName(name), request.headers.get('x-version') ?? '', png)
})
export const DELETE = handle<Params>((_, { id, name }) => forgetResult(uuid(id, 'project'), resultName(name)))
