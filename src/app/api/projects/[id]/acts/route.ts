import { askRecords } from '@/server/records/pool'
import { handle, json, readRecordsBody } from '@/server/respond'
import { uuid, wholeNumber } from '@/server/address'

export const dynamic = 'force-dynamic'
/** What came after act number `after`, up to number `until`. */
export const GET = handle<{ id: string }>(async (request, { id }) => {
  const numbers = [wholeNumber(request, 'after') ?? 0, wholeNumber(request, 'until') ?? null]
  return json(await askRecords({ ask: 'acts', id: uuid(id, 'project'), args: numbers }))
})
export const POST = handle<{ id: string }>(async (request, { id }) =>
  json(await askRecords({ ask: 'store', id: uuid(id, 'project'), body: await readRecordsBody(request) })),
)
