import { uuid } from '@/server/address'
import { runAgain, startBatch, stopBatch, tryBatch } from '@/server/batches/batches'
import { BatchRunInput, checkInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'

/** The first few, all, some again, or no more. */
export const POST = handle<{ id: string }>(async (request, { id: given }) => {
  const { what, numbers } = await checkInput(BatchRunInput, await readJson(request)),
    id = uuid(given, 'batch')
  switch (what) {
    case 'try':
      return tryBatch(id)
    case 'start':
      return startBatch(id)
    case 'again':
      return runAgain(id, numbers)
    case 'stop':
      return stopBatch(id)
  }
})
