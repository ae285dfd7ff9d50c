/** What an earlier visit left unsent, on top of what the server has. */
import { type Act, type History, retold } from '@/document/history'
import { isValid, joinHeads } from '@/document/merge'
import { type Project } from '@/document/records'
import { type SetAside } from './backup'

export const asideOf = (project: string, act: Act, why: string): SetAside => ({ id: act.id, project, act, why })
/** Unsent acts whose parents are there, and the others. */
export function sorted(id: string, unsent: readonly Act[], known: ReadonlySet<string>) {
  const there = new Set(known),
    joined: Act[] = [],
    orphans: SetAside[] = []
  for (const act of unsent)
    if (act.parent === null || there.has(act.parent)) {
      there.add(act.id)
      joined.push(act)
    } else orphans.push(asideOf(id, act, 'It builds on a change that the server does not have.'))
  return { joined, orphans }
}

/** Unsent acts as the server takes them now, and those of an earlier version that do not fit. */
export function toSend(id: string, { project, history }: { project: Project; history: History }, acts: readonly Act[]) {
  const sendable: Act[] = [],
    odd: SetAside[] = []
  for (const act of acts)
    try {
      sendable.push(retold(project, history, act))
    } catch {
      odd.push(asideOf(id, act, 'It does not fit what it builds on.'))
    }
  return { sendable, odd }
}

/** What an earlier visit left, on top of what the server has; null where it does not fit. */
export function withLeft(
  server: { project: Project; history: History },
  mine: string | null,
  agreed: string | null | undefined,
) {
  const { acts, head: theirs } = server.history
  const there = (head: string | null) => head === null || acts.has(head)
  if (mine === theirs) return { ...server, act: null }
  if (!there(mine)) return null
  try {
    const base = agreed !== undefined && there(agreed) ? agreed : meeting(acts, mine, theirs)
    const state = joinHeads(server, { agreed: base, mine, theirs }, newAct())
    return isValid(state.project) ? state : null
  } catch {
    return null // patches of an earlier version that do not fit
  }
}
/** The last act on both ways. */
function meeting(acts: ReadonlyMap<string, Act>, a: string | null, b: string | null): string | null {
  const above = new Set<string | null>([null])
  for (let id = a; id; id = acts.get(id)?.parent ?? null) above.add(id)
  let id = b
  while (!above.has(id)) id = acts.get(id!)?.parent ?? null
  return id
}
export const newAct = () => ({
  id: crypto.randomUUID(),
  at: new Date().toISOString(),
  label: 'Take in what another tab did',
})
