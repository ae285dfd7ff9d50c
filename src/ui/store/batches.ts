/** Calls about batches. */
import { type BatchPlan } from '@/document/batchPlan'
import { type PictureOrder, type PictureState } from '@/document/batchRows'
import { type Batch, type BatchPicture, type BatchSummary } from '@/document/exchanged'
import { call, json } from './server'

export interface PictureFilter {
  state?: PictureState
  /** Percent, at least. */
  doubt?: number
  /** Words that the name holds. */
  name?: string
  order: PictureOrder
}
/** Pictures that are added at a time. */
const ADDED_AT_ONCE = 100

const at = (id: string, rest = '') => `/api/batches/${id}${rest}`
export const listBatches = () => call<{ batches: BatchSummary[] }>('/api/batches').then((r) => r.batches)
export const createBatch = (id: string, name: string, plan: unknown) =>
  call('/api/batches', json('POST', { id, name, plan }))
export const openBatch = (id: string) => call<Batch>(at(id))
export const changeBatch = (id: string, change: { name?: string; plan?: BatchPlan }) =>
  call<Batch>(at(id), json('PATCH', change))
export const deleteBatch = (id: string) => call(at(id), { method: 'DELETE' })
export const runBatch = (id: string, what: 'try' | 'start' | 'again' | 'stop', numbers?: readonly number[]) =>
  call<Batch>(at(id, '/run'), json('POST', { what, ...(numbers ? { numbers } : {}) }))
export const batchPictures = (id: string, { state, doubt, name, order }: PictureFilter, from: number) => {
  const asked = new URLSearchParams({ from: String(from), order })
  if (state) asked.set('state', state)
  if (doubt) asked.set('doubt', String(doubt))
  if (name) asked.set('name', name)
  return call<{ pictures: BatchPicture[]; total: number }>(at(id, `/pictures?${asked}`))
}
export async function addToBatch(id: string, pictures: readonly { asset: string; name: string }[]): Promise<void> {
  for (let from = 0; from < pictures.length; from += ADDED_AT_ONCE)
    await call(at(id, '/pictures'), json('POST', { pictures: pictures.slice(from, from + ADDED_AT_ONCE) }))
}
export const mendPicture = (id: string, number: number) =>
  call<{ id: string }>(at(id, `/pictures/${number}/project`), { method: 'POST' })
export const madeThumbnail = (id: string, { number, run, ms }: BatchPicture) =>
  at(id, `/pictures/${number}/thumbnail?try=${run}-${ms}`)
export const madeFile = (id: string, number: number) => at(id, `/pictures/${number}/file`)
/** Everything made, into a folder of the server. @param told how many files are written so far @returns the folder */
export async function intoFolder(id: string, signal: AbortSignal, told: (written: number) => void): Promise<string> {
  let all = 0
  for (let after = 0; ;) {
    const part = await call<{ folder: string; after: number | null; written: number }>(
      at(id, `/folder?after=${after}`),
      { method: 'POST', signal },
    )
    told((all += part.written))
    if (part.after === null) return part.folder
    after = part.after
  }
}
export const madeZip = (id: string) => at(id, '/zip')
