import { uuid } from '@/server/address'
import { handle } from '@/server/respond'
import { listResults } from '@/server/results'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) => ({ results: await listResults(uuid(id, 'project')) }))
