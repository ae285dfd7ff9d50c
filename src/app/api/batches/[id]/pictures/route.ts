import { uuid, wholeNumber } from '@/server/address'
import { addPictures, picturesOf } from '@/server/batches/batches'
import { filterOf } from '@/server/batches/filter'
import { BatchPicturesInput, checkInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'

/** From so many rows on; which ones, says filterOf. */
export const GET = handle<{ id: string }>(async (request, { id }) =>
  picturesOf(uuid(id, 'batch'), filterOf(request), wholeNumber(request, 'from')),
)
export const POST = handle<{ id: string }>(async (request, { id }) => {
  const { pictures } = await checkInput(BatchPicturesInput, await readJson(request))
  await addPictures(uuid(id, 'batch'), pictures)
})
