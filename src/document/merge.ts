/** Two heads of one project become one: what one tab did is joined to what another did meanwhile. */
import { freeze } from 'immer'
import { applyDiff, diffOf } from './diff'
import { type Act, actBetween, applyChange, goTo, type History, withAct } from './history'
import { ancestorsOf } from './shown'
import { sceneNames } from './tree'
import { type KeptScene, type Project } from './records'
import { isRecordError, parseProject } from './validate'

interface State {
  readonly project: Project
  readonly history: History
}
export interface Heads {
  /** What both last agreed on. */
  readonly agreed: string | null
  readonly mine: string | null
  readonly theirs: string | null
}

export const isValid = (project: Project): boolean => {
  try {
    parseProject(project)
    return true
  } catch (error) {
    if (isRecordError(error)) return false
    throw error
  }
}

/** What one side took away while the other still names it comes back, or is no longer named. */
export function mended(project: Project, sources: readonly Project[]): Project {
  const ids = new Map(project.layers.map((layer) => [layer.id, layer]))
  const layers = project.layers.map((layer) => {
    const group = layer.parent === undefined ? undefined : ids.get(layer.parent)
    if (
      layer.parent === undefined ||
      (group?.kind === 'group' && !ancestorsOf(project.layers, layer.id).includes(layer))
    )
      return layer
    const { parent, ...rest } = layer
    void parent
    return rest
  })
  const { activeLayer } = project,
    active = activeLayer === null || ids.has(activeLayer) ? activeLayer : (layers.at(-1)?.id ?? null)
  const steps = [project.selection, ...project.saved.map((saved) => saved.recipe)].flatMap((recipe) => recipe.steps)
  const scenes = new Map((project.scenes ?? []).map((scene) => [scene.id, scene])),
    others = new Map(
      sources.flatMap((source) => source.scenes ?? []).map((scene): [string, KeptScene] => [scene.id, scene]),
    )
  const open = [...sceneNames(layers, steps), ...[...scenes.values()].flatMap((scene) => sceneNames(scene.layers))]
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    const missing = scenes.has(name) ? undefined : others.get(name)
    if (!missing) continue
    scenes.set(name, missing)
    open.push(...sceneNames(missing.layers))
  }
  return { ...project, layers, activeLayer: active, ...(scenes.size ? { scenes: [...scenes.values()] } : {}) }
}

/**
 * What both did, as mine with one act more that takes theirs in; theirs as it is where mine did nothing, mine where theirs did nothing.
 * Of different records both stand, of the same field mine, which comes later; theirs stays in the history.
 */
export function joinHeads(
  state: State,
  { agreed, mine, theirs }: Heads,
  act: Pick<Act, 'id' | 'at' | 'label'>,
): State & { readonly act: Act | null } {
  const at = (head: string | null) => goTo(state.project, state.history, head)
  const base = at(agreed).project,
    ours = at(mine),
    others = at(theirs)
  const done = diffOf(base, ours.project),
    theirsDone = diffOf(base, others.project)
  if (!done) return { ...others, act: null }
  if (!theirsDone) return { ...ours, act: null }
  const sources = [ours.project, others.project, base]
  const ways = [applyDiff(others.project, done), applyDiff(ours.project, theirsDone)] as Project[]
  const merged = ways.map((way) => freeze(mended(way, sources), true)).find(isValid)
  const taken = merged && actBetween(ours.project, merged, { ...act, parent: mine })
  return taken ? { project: merged, history: withAct(ours.history, taken), act: taken } : { ...ours, act: null }
}

/** The same acts without one of them, as far as they can stand without it: those made after it get new ids. @returns those that stand, in order, what is shown now, and those that do not */
export function withoutAct(
  { project, history }: State,
  gone: Act,
  rest: readonly Act[],
  newId: () => string,
): State & { readonly acts: readonly Act[]; readonly dropped: readonly Act[] } {
  const acts = new Map(history.acts),
    onward = new Map(history.onward),
    instead = new Map<string | null, string | null>([[gone.id, gone.parent]]),
    records = new Map<string | null, Project>(),
    kept: Act[] = [],
    dropped: Act[] = []
  const recordsAt = (head: string | null): Project => {
    if (!records.has(head)) records.set(head, goTo(project, history, head).project)
    return records.get(head)!
  }
  for (const act of rest) {
    const parent = instead.has(act.parent) ? instead.get(act.parent)! : act.parent,
      before = recordsAt(parent)
    const after = freeze(mended(applyChange(before, act.forward), [recordsAt(act.id), before]), true)
    const next = isValid(after) ? actBetween(before, after, { ...act, id: newId(), parent }) : null
    if (!next) {
      dropped.push(act)
      instead.set(act.id, parent)
      continue
    }
    instead.set(act.id, next.id)
    records.set(next.id, after)
    kept.push(next)
  }
  const head = instead.has(history.head) ? instead.get(history.head)! : history.head,
    shown = recordsAt(head)
  for (const act of [gone, ...rest]) {
    acts.delete(act.id)
    onward.delete(act.id)
    if (onward.get(act.parent ?? '') === act.id) onward.delete(act.parent ?? '')
  }
  for (const act of kept) {
    acts.set(act.id, act)
    onward.set(act.parent ?? '', act.id)
  }
  return { project: shown, history: { acts, head, onward }, acts: kept, dropped }
}
