import { pictureName } from '@/server/address'
import { usesOf } from '@/server/library'
import { handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle<{ sha256: string }>(async (_, { sha256 }) => usesOf(pictureName(sha256)))
