import { askRecords } from '@/server/records/pool'
import { handle, json, readRecordsBody } from '@/server/respond'
import { listProjects } from '@/server/projects'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ projects: await listProjects() }))
export const POST = handle(async (request) =>
  json(await askRecords({ ask: 'create', id: '', body: await readRecordsBody(request) })),
)
