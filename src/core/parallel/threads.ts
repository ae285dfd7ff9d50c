/** A crew of real threads: the one that asks shares out and works along, the others help. Between them are message ports and shared memory. */
import { alone, type Crew, type Task } from './crew'

/** What both the page's and Node's ports can do. */
export interface Port {
  postMessage(message: unknown): void
}

/** Places in a job's state: the next piece to be claimed, how many are done, whether it is called off; from there on, what has become of each piece. */
const NEXT = 0,
  DONE_COUNT = 1
export const CALLED_OFF = 2,
  PIECES = 3,
  DONE = 1,
  FAILED = 2
/** The asking thread looks this often whether it should go on waiting, ms; a piece that nobody finishes in so long is done anew. */
const LOOK_MS = 40,
  LOST_MS = 20_000

interface Job {
  readonly task: string
  readonly common: unknown
  readonly pieces: readonly unknown[]
  readonly state: Int32Array
}

const claim = ({ state, pieces }: Job): number => {
  const i = Atomics.add(state, NEXT, 1)
  return i < pieces.length ? i : -1
}
function settle(state: Int32Array, i: number, how: number): void {
  Atomics.store(state, PIECES + i, how)
  Atomics.add(state, DONE_COUNT, 1)
  Atomics.notify(state, DONE_COUNT)
}

/** @param helpers ports to threads that were given their ends by `helpWith`; more may be added later */
export function crewOf(helpers: readonly Port[]): Crew {
  return {
    allocate: (bytes) => new SharedArrayBuffer(bytes),
    share(task, common, pieces, check = () => {}) {
      if (!helpers.length || pieces.length < 2) {
        alone.share(task, common, pieces, check)
        return
      }
      const state = new Int32Array(new SharedArrayBuffer(4 * (PIECES + pieces.length))),
        job: Job = { task: task.name, common, pieces, state }
      for (const helper of helpers) helper.postMessage(job)
      try {
        const told = () => check(Atomics.load(state, DONE_COUNT) / pieces.length),
          work = task.begin(common, told)
        told()
        for (let i = claim(job); i >= 0; i = claim(job)) {
          told()
          work(pieces[i])
          settle(state, i, DONE)
        }
        pieces.forEach((piece, i) => {
          for (let waited = 0; Atomics.load(state, PIECES + i) !== DONE; waited += LOOK_MS) {
            // What failed over there fails here, too, where it can be told; what is lost is done here.
            if (Atomics.load(state, PIECES + i) === FAILED || waited > LOST_MS) {
              work(piece)
              break
            }
            const count = Atomics.load(state, DONE_COUNT)
            check(count / pieces.length)
            if (Atomics.load(state, PIECES + i) === 0) Atomics.wait(state, DONE_COUNT, count, LOOK_MS)
          }
        })
      } catch (error) {
        Atomics.store(state, CALLED_OFF, 1) // nobody goes on with a piece
        throw error
      } finally {
        Atomics.store(state, NEXT, pieces.length) // nobody begins another one
      }
    },
  }
}

class CalledOff extends Error {}

/** Helps whoever asks through the port, a piece at a time: between pieces the thread's other work has its turn. */
export function helpWith(port: Pick<MessagePort, 'onmessage'>, tasks: readonly Task<never, never>[]): void {
  const known = new Map(tasks.map((task) => [task.name, task as Task<unknown, unknown>]))
  const jobs: { job: Job; work: ((piece: unknown) => void) | null }[] = []
  const turn = new MessageChannel()
  const next = () => turn.port2.postMessage(null)
  turn.port1.onmessage = () => {
    const [first] = jobs
    if (!first) return
    const { job } = first,
      i = claim(job)
    if (i < 0) jobs.shift()
    else
      try {
        first.work ??= known.get(job.task)!.begin(job.common, () => {
          if (Atomics.load(job.state, CALLED_OFF)) throw new CalledOff()
        })
        first.work(job.pieces[i])
        settle(job.state, i, DONE)
      } catch {
        settle(job.state, i, FAILED)
      }
    if (jobs.length) next()
  }
  port.onmessage = ({ data }) => {
    jobs.push({ job: data as Job, work: null })
    if (jobs.length === 1) next()
  }
}
