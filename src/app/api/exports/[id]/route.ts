import { exportState, forget } from '@/server/exports/exports'
import { handle } from '@/server/respond'
import { uuid } from '@/server/address'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) => exportState(uuid(id, 'export')))
export const DELETE = handle<{ id: string }>(async (_, { id }) => forget(uuid(id, 'export')))
