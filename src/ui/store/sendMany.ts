/** Many picture files, two at a time, each with its progress: those that are refused are listed by name, the rest goes on; while the server is away they wait. */
import { create } from 'zustand'
import { Refused, sendPicture, type StoredPicture, Unreachable } from './server'

const AT_A_TIME = 2
/** While the server is away it is asked again after so long, ms. */
const AGAIN_MS = 2000

export interface SendingState {
  /** How many were given, sent, and refused. */
  readonly total: number
  readonly done: number
  readonly problems: readonly { readonly name: string; readonly sentence: string }[]
  /** What is being sent: how far each is, 0-1, by its name. */
  readonly under: Readonly<Record<string, number>>
  /** The server cannot be reached right now. */
  readonly waits: boolean
}
const NOTHING: SendingState = { total: 0, done: 0, problems: [], under: {}, waits: false }

export const useSending = create<SendingState>(() => NOTHING)
type Take = (stored: StoredPicture, file: File) => Promise<void> | void
interface Waiting {
  readonly file: File
  readonly take: Take
  /** Over when the one before is: whatever is quicker to send, they are taken in their order. */
  readonly turn: Promise<void>
  readonly over: () => void
}
let queue: Waiting[] = []
let last = Promise.resolve()
let lanes = 0
let cancel = new AbortController()

/** @param take is told of each that is stored, in the order they were given; files may come again while others are under way */
export function sendMany(
  files: readonly File[],
  take: (stored: StoredPicture, file: File) => Promise<void> | void,
): void {
  if (!files.length) return
  if (lanes === 0) useSending.setState({ ...NOTHING, problems: useSending.getState().problems })
  useSending.setState(({ total }) => ({ total: total + files.length }))
  for (const file of files) {
    const turn = last
    let over = () => {}
    last = new Promise((resolve) => (over = resolve))
    queue.push({ file, take, turn, over })
  }
  while (lanes < AT_A_TIME) {
    lanes++
    void lane().finally(() => {
      lanes--
      if (lanes === 0 && !queue.length) useSending.setState({ under: {}, waits: false })
    })
  }
}
/** What has not been sent yet is dropped. */
export function stopSending(): void {
  for (const { over } of queue) over()
  queue = []
  cancel.abort()
  cancel = new AbortController()
  useSending.setState(({ done, problems }) => ({ total: done + problems.length, under: {}, waits: false }))
}
export const forgetProblems = (): void => useSending.setState({ ...NOTHING })

async function lane(): Promise<void> {
  for (let next = queue.shift(); next; next = queue.shift()) {
    const { file, take, turn, over } = next,
      { signal } = cancel
    const under = (fraction: number | undefined) =>
      useSending.setState(({ under: before }) => {
        const after = { ...before }
        if (fraction === undefined) delete after[file.name]
        else after[file.name] = fraction
        return { under: after }
      })
    try {
      under(0)
      const stored = await patiently(() => sendPicture(file, under, signal), signal)
      await turn
      await patiently(async () => take(stored, file), signal)
      useSending.setState(({ done }) => ({ done: done + 1 }))
    } catch (error) {
      if (signal.aborted) continue // others may have come since
      const sentence = error instanceof Error ? error.message : String(error)
      useSending.setState(({ problems }) => ({ problems: [...problems, { name: file.name, sentence }] }))
    } finally {
      over()
      under(undefined)
    }
  }
}

/** Again and again until the server answers; what it refuses is refused. */
async function patiently<T>(work: () => Promise<T>, signal: AbortSignal): Promise<T> {
  for (;;)
    try {
      const done = await work()
      useSending.setState({ waits: false })
      return done
    } catch (error) {
      if (!(error instanceof Unreachable) || error instanceof Refused || signal.aborted) throw error
      useSending.setState({ waits: true })
      await new Promise((again) => setTimeout(again, AGAIN_MS))
      if (signal.aborted) throw error
    }
}
