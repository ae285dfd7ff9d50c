import { handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ ok: true }))
