/** The threads that help one job: as many as the processor has beside the one that asks, a few at most. */
import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { MessageChannel, Worker } from 'node:worker_threads'
import { alone, type Crew } from '@/core/parallel/crew'
import { crewOf } from '@/core/parallel/threads'

/** Each takes up to 64 MB beside what they all see. */
const MOST = 3
const HEAP_MB = 512

/** @param width how many threads in all; they end with the thread that asks */
export function helped(width = Math.min(MOST + 1, availableParallelism())): Crew {
  if (width <= 1) return alone
  const ports = Array.from({ length: width - 1 }, () => {
    const { port1, port2 } = new MessageChannel()
    new Worker(fileURLToPath(new URL('./helper.mjs', import.meta.url)), {
      workerData: { port: port2 },
      transferList: [port2],
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
    }).unref()
    port1.unref()
    return port1
  })
  return crewOf(ports)
}
