import { Problem } from '@/server/problems'
import { askRecords } from '@/server/records/pool'
import { handle, json, readRecordsBody } from '@/server/respond'
import { uuid } from '@/server/uuid'

export const dynamic = 'force-dynamic'
/** What came after act number `after`. */
export const GET = handle<{ id: string }>(async (request, { id }) => {
  const after = Number(new URL(request.url).searchParams.get('after') ?? 0)
  if (!Number.isInteger(after) || after < 0 || after > 2 ** 31)
    throw new Problem(422, 'after: takes a whole number from 0.')
  return json(await askRecords({ ask: 'acts', id: uuid(id, 'project'), args: [after] }))
})
export const POST = handle<{ id: string }>(async (request, { id }) =>
  json(
    await askRecords({
      ask: 'store',
      id: uuid(id, 'project'),
      body: await readRecordsBody(request),
    }),
  ),
)
