import { askRecords } from '@/server/records/pool'
import { handle, json } from '@/server/respond'
import { removeProject } from '@/server/sweep'
import { uuid } from '@/server/uuid'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) =>
  json(await askRecords({ ask: 'open', id: uuid(id, 'project') })),
)
export const DELETE = handle<{ id: string }>(async (_, { id }) => removeProject(uuid(id, 'project')))
