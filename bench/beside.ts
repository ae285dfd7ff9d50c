/** A thread of the bench that does for itself what it is told by number. */
import '@/core/network/withWeights'
import { parentPort, workerData } from 'node:worker_threads'
import { alone } from '@/core/parallel/crew'
import { sharedWork, type Shown } from './threads'

const work = sharedWork(workerData as Shown)
parentPort!.on('message', (index: number) => {
  work[index][1](alone)()
  parentPort!.postMessage(null)
})
