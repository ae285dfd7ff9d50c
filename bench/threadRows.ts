/**
 * Long work by two threads beside the same by one: the second is a helper as exports have it. The one has the machine to itself, or does its work
 * while another thread does the same for itself: what two processors slow each other by (memory, neighbours) is nothing that sharing loses.
 */
import { MessageChannel, Worker } from 'node:worker_threads'
import { type Matte, type Picture } from '@/core/raster/picture'
import { type Row } from './row'
import { sharedWork, type Shown } from './threads'

const inShared = <T extends Matte | Picture>(raster: T): T => {
  const data = new Uint8ClampedArray(new SharedArrayBuffer(raster.data.length))
  data.set(raster.data)
  return { ...raster, data: raster.data instanceof Uint8ClampedArray ? data : new Uint8Array(data.buffer) }
}

/** Does what it is told, for itself or shared. */
function threadOf(shown: Shown, helper?: MessagePort) {
  let thread: Worker | undefined
  return (index: number, shared = false) => {
    const asked = (thread ??= new Worker('./dist/beside.mjs', {
      workerData: { shown, helper },
      transferList: helper ? [helper as never] : [],
    }))
    asked.ref()
    return new Promise<void>((done) => {
      asked.once('message', () => (asked.unref(), done()))
      asked.postMessage({ index, shared })
    })
  }
}

export function threadRows(photo: Picture, subject: Matte, soft: Matte): Row[] {
  const shown: Shown = { photo: inShared(photo), subject: inShared(subject), soft: inShared(soft) },
    { port1, port2 } = new MessageChannel(),
    asker = threadOf(shown, port1 as unknown as MessagePort),
    other = threadOf(shown)
  new Worker('./dist/helper.mjs', { workerData: { port: port2 }, transferList: [port2] }).unref()
  return sharedWork(shown).flatMap(([name], index): Row[] => {
    const byTwo = () => asker(index, true),
      byOne = () => asker(index)
    return [
      [`${name}, two threads`, 1 / 1.7, byTwo, 'one thread, edge', byOne],
      [
        `${name}, sharing`,
        1 / 1.7,
        byTwo,
        'one thread beside another, edge',
        async () => {
          await Promise.all([other(index), byOne()])
        },
      ],
    ]
  })
}
