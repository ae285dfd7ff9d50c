import { uuid } from '@/server/address'
import { batchOf } from '@/server/batches/batches'
import { zipOf } from '@/server/batches/zip'
import { plainName } from '@/server/fileNames'
import { asFile, handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** All that is done, as it is read. */
export const GET = handle<{ id: string }>(async (_, params) => {
  const id = uuid(params.id, 'batch'),
    { name, plan } = await batchOf(id)
  return new Response(zipOf(id, plan), { headers: asFile(`${plainName(name)}.zip`, 'application/zip') })
})
