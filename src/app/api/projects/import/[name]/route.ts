import { importProgress } from '@/server/projectFile/read'
import { handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** How far a file is that is being taken in. */
export const GET = handle<{ name: string }>(async (_, { name }) => importProgress(name))
