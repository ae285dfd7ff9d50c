/**
 * Many picture files, two at a time, each with its progress: those that are refused are listed by name, the rest goes on. While the server
 * is away they wait, kept in this browser (waitingFiles.ts): whoever opens the page again sends them.
 */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { create } from 'zustand'
import { Refused, type SendProgress, sendPicture, Unreachable } from './server'
import { type StoredPicture } from '@/document/exchanged'
import { forgetFile, type Goal, keepFile, leftFiles } from './waitingFiles'

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
  /** Why nothing can be sent right now, a sentence; empty when it can. */
  readonly waits: string
}
const NOTHING: SendingState = { total: 0, done: 0, problems: [], under: {}, waits: '' }

export const useSending = create<SendingState>(() => NOTHING)
/** Is told of each file that was sent, in the order they were given. */
export type Take<T = StoredPicture> = (stored: T, file: File, goal: Goal) => Promise<void> | void
export type Send<T> = (file: File, progress: SendProgress, signal: AbortSignal) => Promise<T>
/** How a file is sent, and what is done then. */
interface Way<T> {
  readonly send: Send<T>
  readonly take: Take<T>
}
interface Waiting {
  readonly id: string
  readonly file: File
  readonly goal: Goal
  readonly way: Way<unknown>
  /** Over when the one before is: whatever is quicker to send, they are taken in their order. */
  readonly turn: Promise<void>
  readonly over: () => void
  /** In this browser's storage. */
  kept: Promise<boolean> | null
}
/** Thrown by who takes a picture: its goal is not there now. It is kept, and taken when the goal is opened again. */
export class TakenLater extends Error {}

let queue: Waiting[] = []
const sending = new Set<Waiting>()
let last = Promise.resolve()
let lanes = 0
let cancel = new AbortController()

/** Files may come again while others are under way. */
export function sendMany(files: readonly File[], goal: Goal, take: Take): void
export function sendMany<T>(files: readonly File[], goal: Goal, take: Take<T>, send: Send<T>): void
export function sendMany(
  files: readonly File[],
  goal: Goal,
  take: Take<never>,
  send: Send<unknown> = sendPicture,
): void {
  enqueue(
    files.map((file) => ({ id: crypto.randomUUID(), file, goal })),
    { take: take as Take<unknown>, send },
  )
}
/** What an earlier visit left that goes there. */
export async function sendLeft(isMine: (goal: Goal) => boolean, take: Take): Promise<void>
export async function sendLeft<T>(isMine: (goal: Goal) => boolean, take: Take<T>, send: Send<T>): Promise<void>
export async function sendLeft(
  isMine: (goal: Goal) => boolean,
  take: Take<never>,
  send: Send<unknown> = sendPicture,
): Promise<void> {
  try {
    enqueue(await leftFiles(isMine), { take: take as Take<unknown>, send }, true)
  } catch {
    // A browser that keeps nothing has left nothing.
  }
}

function enqueue(files: readonly Pick<Waiting, 'id' | 'file' | 'goal'>[], way: Way<unknown>, kept = false): void {
  if (!files.length) return
  if (lanes === 0) useSending.setState(NOTHING)
  useSending.setState(({ total }) => ({ total: total + files.length }))
  for (const each of files) {
    const turn = last
    let over = () => {}
    last = new Promise((resolve) => (over = resolve))
    queue.push({ ...each, way, turn, over, kept: kept ? Promise.resolve(true) : null })
  }
  while (lanes < AT_A_TIME) {
    lanes++
    void lane().finally(() => {
      lanes--
      if (lanes === 0 && !queue.length) useSending.setState({ under: {}, waits: '' })
    })
  }
}
/** What has not been sent yet is dropped. */
export function stopSending(): void {
  for (const each of [...queue, ...sending]) forget(each)
  for (const { over } of queue) over()
  queue = []
  cancel.abort()
  cancel = new AbortController()
  useSending.setState(({ done, problems }) => ({ total: done + problems.length, under: {}, waits: '' }))
}
export const forgetProblems = (): void => useSending.setState({ ...NOTHING })

const keep = (each: Waiting): Promise<boolean> =>
  (each.kept ??= keepFile({ id: each.id, file: each.file, goal: each.goal }).then(
    () => true,
    () => false,
  ))
const forget = ({ kept, id }: Waiting): void => {
  if (kept) void kept.then(() => forgetFile(id)).catch(() => {})
}

async function lane(): Promise<void> {
  for (let next = queue.shift(); next; next = queue.shift()) {
    const each = next,
      { file, goal, way, turn, over } = each,
      { signal } = cancel
    const under = (fraction: number | undefined) =>
      useSending.setState(({ under: before }) => {
        const after = { ...before }
        if (fraction === undefined) delete after[file.name]
        else after[file.name] = fraction
        return { under: after }
      })
    sending.add(each)
    try {
      under(0)
      const stored = await patiently(() => way.send(file, under, signal), signal)
      await turn
      await patiently(async () => way.take(stored, file, goal), signal)
      useSending.setState(({ done }) => ({ done: done + 1 }))
      forget(each)
    } catch (error) {
      if (signal.aborted) continue // others may have come since
      if (error instanceof TakenLater && (await keep(each))) {
        useSending.setState(({ done }) => ({ done: done + 1 }))
        continue
      }
      const sentence = sentenceOf(error)
      useSending.setState(({ problems }) => ({ problems: [...problems, { name: file.name, sentence }] }))
      forget(each)
    } finally {
      sending.delete(each)
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
      useSending.setState({ waits: '' })
      return done
    } catch (error) {
      if (!(error instanceof Unreachable) || error instanceof Refused || signal.aborted) throw error
      useSending.setState({ waits: error.message })
      for (const each of [...sending, ...queue]) void keep(each)
      await new Promise((again) => setTimeout(again, AGAIN_MS))
      if (signal.aborted) throw error
    }
}

// What is being sent and kept nowhere would be lost with the page.
if (typeof window !== 'undefined')
  window.addEventListener('beforeunload', (event) => {
    if ([...sending, ...queue].some(({ kept }) => !kept)) event.preventDefault()
  })
