/**
 * What changed between two states of the records, told by ids and fields and not by places: so a change can be applied to other records than
 * those it was made on. Changes of different records both stand; of the same field, the one applied later. Things that are not there are passed over.
 *
 * Lists whose entries all have ids are changed entry by entry; other lists by the one run that differs, so that a stroke more is a stroke.
 */
type Json = unknown
type Entry = { readonly id: string }

/** Exactly one of these is there. */
export interface Diff {
  /** The new value, whole. */
  readonly to?: Json
  /** Fields of an object. */
  readonly fields?: FieldsDiff
  /** Entries of a list with ids. */
  readonly entries?: EntriesDiff
  /** A run of a list without ids. */
  readonly run?: RunDiff
}
export interface FieldsDiff {
  readonly set?: Readonly<Record<string, Json>>
  readonly unset?: readonly string[]
  readonly in?: Readonly<Record<string, Diff>>
}
export interface EntriesDiff {
  /** Each comes in behind the entry of that id; null: first. In this order. */
  readonly add?: readonly (readonly [behind: string | null, entry: Json])[]
  readonly remove?: readonly string[]
  readonly in?: Readonly<Record<string, Diff>>
  /** All ids in their new order, where those that stay changed places. */
  readonly order?: readonly string[]
}
export interface RunDiff {
  readonly at: number
  readonly remove: number
  readonly add: readonly Json[]
}

const isObject = (value: Json): value is Record<string, Json> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const hasIds = (list: readonly Json[]): list is readonly Entry[] => {
  const seen = new Set<unknown>()
  return list.every(
    (entry) => isObject(entry) && typeof entry.id === 'string' && !seen.has(entry.id) && seen.add(entry.id),
  )
}
/** Fields that are undefined are not there, as in JSON. */
const present = (object: Record<string, Json>): string[] =>
  Object.keys(object).filter((name) => object[name] !== undefined)

/** Null when nothing changed. What both share by reference is not looked into. */
export function diffOf(before: Json, after: Json): Diff | null {
  if (before === after) return null
  if (Array.isArray(before) && Array.isArray(after)) {
    if (hasIds(before) && hasIds(after) && (before.length || after.length)) return entriesDiff(before, after)
    return runDiff(before, after)
  }
  if (isObject(before) && isObject(after)) return fieldsDiff(before, after)
  return { to: after }
}

function fieldsDiff(before: Record<string, Json>, after: Record<string, Json>): Diff | null {
  const set: Record<string, Json> = {},
    inside: Record<string, Diff> = {},
    unset = present(before).filter((name) => after[name] === undefined)
  for (const name of present(after)) {
    if (before[name] === undefined) set[name] = after[name]
    else {
      const change = diffOf(before[name], after[name])
      if (change && 'to' in change) set[name] = change.to
      else if (change) inside[name] = change
    }
  }
  const fields: FieldsDiff = {
    ...(Object.keys(set).length ? { set } : {}),
    ...(unset.length ? { unset } : {}),
    ...(Object.keys(inside).length ? { in: inside } : {}),
  }
  return Object.keys(fields).length ? { fields } : null
}

function entriesDiff(before: readonly Entry[], after: readonly Entry[]): Diff | null {
  const old = new Map(before.map((entry) => [entry.id, entry])),
    now = new Set(after.map((entry) => entry.id))
  const add: [string | null, Json][] = [],
    inside: Record<string, Diff> = {},
    remove = before.filter((entry) => !now.has(entry.id)).map((entry) => entry.id)
  after.forEach((entry, i) => {
    const was = old.get(entry.id)
    if (!was) add.push([after[i - 1]?.id ?? null, entry])
    else {
      const change = diffOf(was, entry)
      if (change) inside[entry.id] = change
    }
  })
  const stay = after.filter((entry) => old.has(entry.id)),
    stood = before.filter((entry) => now.has(entry.id))
  const entries: EntriesDiff = {
    ...(add.length ? { add } : {}),
    ...(remove.length ? { remove } : {}),
    ...(Object.keys(inside).length ? { in: inside } : {}),
    ...(stay.some((entry, i) => entry.id !== stood[i].id) ? { order: after.map((entry) => entry.id) } : {}),
  }
  return Object.keys(entries).length ? { entries } : null
}

function runDiff(before: readonly Json[], after: readonly Json[]): Diff | null {
  const shorter = Math.min(before.length, after.length)
  let at = 0,
    tail = 0
  while (at < shorter && same(before[at], after[at])) at++
  while (tail < shorter - at && same(before[before.length - 1 - tail], after[after.length - 1 - tail])) tail++
  const remove = before.length - at - tail,
    add = after.slice(at, after.length - tail)
  return remove || add.length ? { run: { at, remove, add } } : null
}
const same = (a: Json, b: Json): boolean => diffOf(a, b) === null

/** The value with the change in it; parts that do not change are shared. Where the change does not fit it is passed over. */
export function applyDiff(value: Json, diff: Diff): Json {
  if ('to' in diff) return diff.to
  if (diff.fields && isObject(value)) return applyFields(value, diff.fields)
  if (diff.entries && Array.isArray(value) && hasIds(value)) return applyEntries(value, diff.entries)
  if (diff.run && Array.isArray(value)) {
    const { at, remove, add } = diff.run
    const list: readonly unknown[] = value
    return [...list.slice(0, at), ...add, ...list.slice(at + remove)]
  }
  return value
}

function applyFields(value: Record<string, Json>, { set = {}, unset = [], in: inside = {} }: FieldsDiff): Json {
  const out = new Map(Object.entries(value))
  for (const name of unset) out.delete(name)
  for (const [name, to] of Object.entries(set)) out.set(name, to)
  for (const [name, change] of Object.entries(inside))
    if (value[name] !== undefined) out.set(name, applyDiff(value[name], change))
  return Object.fromEntries(out)
}

function applyEntries(value: readonly Entry[], { add = [], remove = [], in: inside = {}, order }: EntriesDiff): Json {
  const gone = new Set(remove)
  let out: Entry[] = value
    .filter((entry) => !gone.has(entry.id))
    .map((entry) => (Object.hasOwn(inside, entry.id) ? (applyDiff(entry, inside[entry.id]) as Entry) : entry))
  for (const [behind, added] of add) {
    const entry = added as Entry
    out = out.filter((each) => each.id !== entry.id)
    // What it stood behind may be gone: then it comes last, where what is added usually comes.
    const place = behind === null ? 0 : out.findIndex((each) => each.id === behind) + 1 || out.length
    out.splice(place, 0, entry)
  }
  return order ? inOrder(out, order) : out
}

/** Entries the order does not know stay behind the one they stood behind. */
function inOrder(list: readonly Entry[], order: readonly string[]): Entry[] {
  const byId = new Map(list.map((entry) => [entry.id, entry])),
    known = new Set(order),
    out = order.flatMap((id) => byId.get(id) ?? [])
  list.forEach((entry, i) => {
    if (known.has(entry.id)) return
    const behind = list[i - 1]
    out.splice(behind ? out.indexOf(behind) + 1 : 0, 0, entry)
  })
  return out
}

const MOST_NESTED = 64
/** Whether something from outside has the form of a change. What it makes of records is checked as records are. */
export function isDiff(value: Json, depth = 0): value is Diff {
  if (!isObject(value) || Object.keys(value).length !== 1 || depth > MOST_NESTED) return false
  if ('to' in value) return true
  const texts = (list: Json) =>
    list === undefined || (Array.isArray(list) && list.every((each) => typeof each === 'string'))
  const inner = (map: Json) =>
    map === undefined || (isObject(map) && Object.values(map).every((each) => isDiff(each, depth + 1)))
  const { fields, entries, run } = value as { fields?: Json; entries?: Json; run?: Json }
  if (isObject(fields))
    return (fields.set === undefined || isObject(fields.set)) && texts(fields.unset) && inner(fields.in)
  if (isObject(entries))
    return (
      texts(entries.remove) &&
      texts(entries.order) &&
      inner(entries.in) &&
      (entries.add === undefined ||
        (Array.isArray(entries.add) &&
          entries.add.every(
            (each) =>
              Array.isArray(each) &&
              each.length === 2 &&
              (each[0] === null || typeof each[0] === 'string') &&
              isObject(each[1]) &&
              typeof each[1].id === 'string',
          )))
    )
  return (
    isObject(run) &&
    Number.isInteger(run.at) &&
    (run.at as number) >= 0 &&
    Number.isInteger(run.remove) &&
    (run.remove as number) >= 0 &&
    Array.isArray(run.add)
  )
}
