import { uuid, wholeNumber } from '@/server/address'
import { deliver } from '@/server/batches/folder'
import { handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** Some of what is done, into a folder of the server: ?after=N, the number that the call before gave. */
export const POST = handle<{ id: string }>(async (request, { id }) =>
  deliver(uuid(id, 'batch'), wholeNumber(request, 'after') ?? 0),
)
