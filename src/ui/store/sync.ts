/** The open project and the server: opening, sending what is done, taking in what other tabs did, and what could not be saved. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { saveJson } from '@/ui/primitives/saveFile'
import { freeze } from 'immer'
import { toast } from 'sonner'
import { layerById, recipeAt } from '@/document/edits'
import { type Act, type History, historyOf, withOlder } from '@/document/history'
import { joinHeads, withoutAct } from '@/document/merge'
import { type Project, SELECTION } from '@/document/records'
import { endBurst } from '@/ui/primitives/burst'
import { get, set, startAgain, stepsIn, whenChanged } from './bench'
import { initial } from './benchState'
import { Outbox } from './outbox'
import { openedProject } from './early'
import { actsUntil, createProject, newActs, Refused } from './server'
import { asideOf, newAct, sorted, toSend, withLeft } from './leftovers'

/** Looking whether another browser went on with the project, when the tab is looked at again, at most so often. */
const LOOK_EVERY_MS = 2000

interface Synced {
  readonly id: string
  readonly outbox: Outbox
  /** What this tab and the server last agreed on, and how many acts are known. */
  agreed: string | null
  seq: number
  lookedAt: number
  /** How many of the oldest acts are not known yet. */
  older: number
}
let synced: Synced | null = null
/** Tabs of this browser tell each other when the server moved on. */
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('wily-scissor')

export async function openBench(id: string): Promise<void> {
  closeBench()
  set(initial(id), true)
  const here = () => synced === now
  const outbox = new Outbox(id, {
    report: (saving) => {
      if (here()) set({ saving })
    },
    overtaken: async () => {
      if (here()) await takeIn(now)
    },
    refused: (act, sentence, rest) => withoutRefused(now, act, sentence, rest),
    lost: () => {
      if (!here()) return
      toast.error('The server does not have what was shown; the project was opened again.')
      void openBench(id)
    },
    sent: ({ head, revision }) => {
      now.agreed = head
      channel?.postMessage({ project: id, revision })
    },
  })
  const now: Synced = { id, outbox, agreed: null, seq: 0, lookedAt: Date.now(), older: 0 }
  synced = now
  const left = outbox.left() // what lies in this browser is looked for meanwhile
  try {
    const opened = await openedProject(id)
    const kept = await left
    if (!here()) return
    // What an earlier visit left may lie on any act; otherwise older ones are read while the picture is made.
    if (opened.older && (kept.acts.length || kept.heads.length))
      opened.acts.unshift(...(await actsUntil(id, opened.older)).acts)
    else now.older = opened.older
    if (!here()) return
    const known = new Set(opened.acts.map((act) => act.id)),
      unsent = kept.acts.filter((act) => !known.has(act.id))
    const { joined, orphans } = sorted(id, unsent, known)
    const server = {
      project: freeze(opened.records, true),
      history: historyOf([...opened.acts, ...joined], opened.head),
    }
    Object.assign(now, { agreed: opened.head, seq: opened.seq })
    outbox.revision = opened.revision
    let state: { project: Project; history: History } = server
    const made: Act[] = [],
      aside = [...kept.aside, ...orphans]
    for (const { head, agreed } of kept.heads) {
      const next = withLeft(state, head, agreed)
      if (next) state = next
      if (next?.act) made.push(next.act)
      if (!next)
        aside.push(
          ...joined
            .filter((act) => act.id === head)
            .map((act) => asideOf(id, act, 'It does not fit what the server has.')),
        )
    }
    const { sendable, odd } = toSend(id, state, joined)
    aside.push(...odd)
    if (sendable.length || state.history.head !== opened.head) outbox.take(sendable, state.history.head)
    for (const act of made) outbox.put(act, state.history.head, opened.head)
    set({ phase: 'ready', ...openedAs(state.project), history: state.history, aside })
    outbox.keepAside(aside.slice(kept.aside.length))
    void outbox.flush()
    readOlder(now).catch(() => {}) // asked again by whoever needs it
  } catch (error) {
    if (here())
      set({
        phase: 'failed',
        problem:
          error instanceof Refused && error.status === 404
            ? 'There is no such project. It may have been deleted.'
            : error instanceof Error
              ? error.message
              : String(error),
      })
  }
}

/** What is worked on at first: the selection, or the mask of the active layer where nothing is selected. */
function openedAs(project: Project) {
  const active = layerById(project, project.activeLayer)
  const home =
    project.selection.steps.length === 0 && active?.mask ? ({ kind: 'mask', layer: active.id } as const) : SELECTION
  return {
    project,
    home,
    openStep: recipeAt(project, home)?.steps.findLast((step) => step.kind !== 'invert')?.id ?? null,
  }
}

export function closeBench(): void {
  endBurst()
  synced?.outbox.close()
  synced = null
  startAgain()
}

whenChanged((act, head) => {
  if (get().saving.state === 'saved') set((state) => ({ saving: { ...state.saving, unsent: 1, state: 'sending' } }))
  synced?.outbox.put(act, head, synced.agreed)
})
export const sendNow = (): void => {
  void synced?.outbox.flush()
}

/** The rest of the history. */
async function readOlder(now: Synced): Promise<void> {
  if (!now.older) return
  const { acts } = await actsUntil(now.id, now.older)
  if (synced !== now || !now.older) return
  now.older = 0
  set(({ history }) => ({ history: withOlder(history, acts) }))
}

/** What others did since comes in: beside what was done here, which comes later. */
async function takeIn(now: Synced): Promise<void> {
  now.lookedAt = Date.now()
  await readOlder(now)
  if (synced !== now) return
  const news = await newActs(now.id, now.seq)
  // An answer that was overtaken on its way must not move anything back.
  if (synced !== now || news.revision < now.outbox.revision) return
  endBurst()
  const { project, history } = get()
  if (!project) return
  const fresh = news.acts.filter((act) => !history.acts.has(act.id))
  const acts = new Map(history.acts),
    onward = new Map(history.onward)
  for (const act of fresh) {
    acts.set(act.id, act)
    if (!onward.has(act.parent ?? '')) onward.set(act.parent ?? '', act.id)
  }
  const known = { project, history: { ...history, acts, onward } },
    mine = history.head,
    unsent = now.outbox.unsent
  const { agreed } = now
  Object.assign(now, { seq: news.seq, agreed: news.head })
  now.outbox.revision = news.revision
  if (mine === news.head || (unsent && !fresh.length)) {
    // Nobody did anything that is not here: what is shown here stays.
    set({ history: known.history })
    if (mine === news.head) now.outbox.settled(mine)
    return
  }
  const state = joinHeads(
    known,
    unsent ? { agreed, mine, theirs: news.head } : { agreed: mine, mine, theirs: news.head },
    newAct(),
  )
  set({ project: state.project, history: state.history, ...stepsIn(state.project) })
  startAgain(true)
  if (state.act) now.outbox.put(state.act, state.act.id, news.head)
  else if (state.history.head === news.head) now.outbox.settled(news.head)
  if (fresh.length) toast('What another tab did to this project was taken in.', { id: 'taken in' })
}

/** A change that the server will never take goes from the records; those after it stay as far as they can. */
function withoutRefused(now: Synced, act: Act, sentence: string, rest: readonly Act[]) {
  const { project, history, aside } = get()
  if (!project || synced !== now) return { acts: rest, head: history.head }
  const state = withoutAct({ project, history }, act, rest, () => crypto.randomUUID())
  const entries = [act, ...state.dropped].map((each) =>
    asideOf(now.id, each, each === act ? sentence : `It needs “${act.label}”, which was refused.`),
  )
  now.outbox.keepAside(entries.slice(1))
  set({ project: state.project, history: state.history, ...stepsIn(state.project), aside: [...aside, ...entries] })
  startAgain(true)
  toast.error(`“${act.label}” could not be saved, so it was undone and set aside: ${sentence}`, { duration: 20_000 })
  return { acts: state.acts, head: state.history.head }
}

/** Where another tab or browser may have gone on. */
function look(): void {
  const now = synced
  if (!now || get().phase !== 'ready' || now.outbox.unsent || document.visibilityState === 'hidden') return
  if (Date.now() - now.lookedAt < LOOK_EVERY_MS) return
  takeIn(now).catch(() => {})
}
channel?.addEventListener('message', ({ data }: MessageEvent<{ project: string; revision: number }>) => {
  const now = synced
  if (
    now &&
    data.project === now.id &&
    data.revision > now.outbox.revision &&
    !now.outbox.unsent &&
    get().phase === 'ready'
  )
    takeIn(now).catch(() => {})
})
if (typeof window !== 'undefined') {
  window.addEventListener('focus', look)
  document.addEventListener('visibilitychange', look)
  window.addEventListener('online', sendNow)
  // Where this browser keeps nothing, closing the tab would lose what is unsent.
  window.addEventListener('beforeunload', (event) => {
    const { saving } = get()
    if (synced && !saving.kept && saving.unsent) event.preventDefault()
  })
}

// ---- what could not be saved
export const discardAside = (id: string): void => {
  synced?.outbox.discard(id)
  set((state) => ({ aside: state.aside.filter((entry) => entry.id !== id) }))
}
/** The changes as a file, so that nothing is lost with them. */
export function downloadAside(): void {
  const { aside, project } = get()
  saveJson(`${project?.name ?? 'project'}, changes set aside.json`, aside)
}
/** The records shown as a project of their own: where this one was deleted elsewhere. */
export async function keepAsNewProject(): Promise<void> {
  const { project } = get()
  if (!project) return
  const id = crypto.randomUUID()
  try {
    await createProject(id, project)
    window.location.assign(`/project/${id}`)
  } catch (error) {
    toast.error(sentenceOf(error))
  }
}
