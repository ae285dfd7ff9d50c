import { askRecords } from '@/server/records/pool'
import { handle, json } from '@/server/respond'
import { removeProject } from '@/server/tidy/sweep'
import { uuid, wholeNumber } from '@/server/address'

export const dynamic = 'force-dynamic'
/** With the newest `acts` of its acts; all where it does not say. */
export const GET = handle<{ id: string }>(async (request, { id }) =>
  json(await askRecords({ ask: 'open', id: uuid(id, 'project'), args: [wholeNumber(request, 'acts') ?? null] })),
)
export const DELETE = handle<{ id: string }>(async (_, { id }) => removeProject(uuid(id, 'project')))
