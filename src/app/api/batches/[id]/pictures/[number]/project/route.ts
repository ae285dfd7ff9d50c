import { number, uuid } from '@/server/address'
import { mendPicture } from '@/server/batches/made'
import { handle } from '@/server/respond'

/** The project in which a picture is mended. */
export const POST = handle<{ id: string; number: string }>(async (_, params) => ({
  id: await mendPicture(uuid(params.id, 'batch'), number(params.number, 'picture')),
}))
