/** A thread of the bench, with nothing in it but what the application's own threads have: does what it is told by number, by itself or shared with a helper. */
import '@/core/network/withAllWeights'
import { type MessagePort, parentPort, workerData } from 'node:worker_threads'
import { alone } from '@/core/parallel/crew'
import { crewOf } from '@/core/parallel/threads'
import { sharedWork, type Shown } from './threads'

const { shown, helper } = workerData as { shown: Shown; helper?: MessagePort },
  two = crewOf(helper ? [helper] : []),
  work = sharedWork(shown)
parentPort!.on('message', ({ index, shared }: { index: number; shared: boolean }) => {
  work[index][1](shared ? two : alone)()
  parentPort!.postMessage(null)
})
