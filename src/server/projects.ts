/** Projects and their acts. Every write is one transaction and may be sent again: ids are the client's. Runs in the records' threads (records/). */
import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, gt, lte, sql } from 'drizzle-orm'
import { type OpenProject, type ProjectSummary, type SomeActs, type Standing } from '@/document/exchanged'
import { type Act, applyChange, type Change } from '@/document/history'
import { layerById } from '@/document/edits'
import { LIMITS } from '@/document/limits'
import { picturesOfProject } from '@/document/tree'
import { type Layer, type Project } from '@/document/records'
import { isRecordError, parseProject } from '@/document/validate'
import { requirePictures } from './assets'
import { database, type Database } from './database/connection'
import { act, project, projectAsset, snapshot } from './database/schema'
import { type ActInput, type ActsInput } from './inputs'
import { notFound, Problem } from './problems'

/** A snapshot stands after every so many acts on a path. */
const ACTS_PER_SNAPSHOT = 25

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

export async function listProjects(): Promise<ProjectSummary[]> {
  const rows = await database()
    .select({
      id: project.id,
      name: project.name,
      width: project.width,
      height: project.height,
      changed: project.changed,
      hasCover: sql<boolean>`${project.cover} is not null`,
    })
    .from(project)
    .orderBy(desc(project.changed))
  return rows.map((row) => ({ ...row, changed: row.changed.toISOString() }))
}

function checkedRecords(json: unknown): Project {
  try {
    return parseProject(json)
  } catch (error) {
    throw isRecordError(error) ? new Problem(422, error.message) : error
  }
}

export async function createProject(id: string, json: unknown): Promise<void> {
  const records = checkedRecords(json)
  await database().transaction(async (tx) => {
    await tx
      .insert(project)
      .values({ id, name: records.name, ...records.canvas, initial: records })
      .onConflictDoNothing()
    await needPictures(tx, id, records)
  })
}

/** Acts from one number (left out) to another (with it). */
const actsAfter = async (
  tx: Transaction,
  id: string,
  after: number,
  until?: number,
): Promise<{ acts: Act[]; seq: number }> => {
  const rows = await tx
    .select()
    .from(act)
    .where(and(eq(act.project, id), gt(act.seq, after), until === undefined ? undefined : lte(act.seq, until)))
    .orderBy(asc(act.seq))
  return {
    seq: rows.at(-1)?.seq ?? after,
    acts: rows.map(({ id: actId, parent, label, forward, inverse, at }) => ({
      id: actId,
      parent,
      label,
      forward: forward as Change,
      inverse: inverse as Change,
      at: at.toISOString(),
    })),
  }
}
const standing = { initial: project.initial, head: project.head, revision: project.revision, sending: project.sending }

const lastSeq = async (tx: Transaction, id: string): Promise<number> => {
  const [{ last }] = await tx
    .select({ last: sql<number>`coalesce(max(${act.seq}), 0)`.mapWith(Number) })
    .from(act)
    .where(eq(act.project, id))
  return last
}

/** @param newest how many acts come along; all where it is left out */
export async function openProject(id: string, newest = Infinity): Promise<OpenProject> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select(standing).from(project).where(eq(project.id, id))
    if (!row) throw notFound('project')
    const initial = row.initial as Project,
      older = Math.max(0, (await lastSeq(tx, id)) - newest)
    return {
      id,
      initial,
      older,
      head: row.head,
      revision: row.revision,
      ...(await actsAfter(tx, id, older)),
      records: await recordsAt(tx, id, initial, row.head),
    }
  })
}

/** What came to a project after act number `after`, up to number `until` where one is given. */
export async function newActs(id: string, after: number, until?: number): Promise<SomeActs> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select(standing).from(project).where(eq(project.id, id))
    if (!row) throw notFound('project')
    return { head: row.head, revision: row.revision, ...(await actsAfter(tx, id, after, until)) }
  })
}

/** The records after an act: from the nearest snapshot on its path, or the start. @param known records after acts of this transaction */
async function recordsAt(
  tx: Transaction,
  id: string,
  initial: Project,
  head: string | null,
  known: ReadonlyMap<string, Project> = new Map(),
): Promise<Project> {
  const path: Change[] = []
  let records: Project | null = null
  for (let current = head; current;) {
    records = known.get(current) ?? null
    if (records) break
    const [kept] = await tx
      .select({ records: snapshot.records })
      .from(snapshot)
      .where(and(eq(snapshot.act, current), eq(snapshot.project, id)))
    if (kept) {
      records = kept.records as Project
      break
    }
    const [row] = await tx
      .select({ parent: act.parent, forward: act.forward })
      .from(act)
      .where(and(eq(act.id, current), eq(act.project, id)))
    if (!row) throw new Problem(422, 'This act builds on one that is not stored here.')
    path.unshift(row.forward as Change)
    current = row.parent
  }
  // Records stored in an earlier form are completed before anything is applied to them.
  return path.reduce(applyChange, checkedRecords(records ?? initial))
}

/**
 * Stores acts in order, and moves the head where the sender knew the revision it stands at: otherwise somebody else has moved it, and
 * what is shown stays theirs. An act that is there already is passed over; a sending that arrives again changes nothing.
 * Throws Problem for an act that does not apply.
 */
export async function storeActs(
  id: string,
  { acts, head, revision, sending }: ActsInput,
): Promise<Standing & { moved: boolean }> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select(standing).from(project).where(eq(project.id, id)).for('update')
    if (!row) throw notFound('project')
    if (row.sending === sending) return { head: row.head, revision: row.revision, moved: true }
    const initial = row.initial as Project,
      known = new Map<string, Project>(),
      pictures = new Set<string>()
    let seq = await lastSeq(tx, id)
    for (const input of acts) {
      const [there] = await tx.select({ project: act.project }).from(act).where(eq(act.id, input.id))
      if (there) {
        if (there.project !== id) throw new Problem(422, 'An act of this id belongs to another project.')
        continue
      }
      const records = applied(await recordsAt(tx, id, initial, input.parent, known), input)
      await needPictures(tx, id, records, pictures)
      known.set(input.id, records)
      seq++
      await tx.insert(act).values({ ...input, project: id, seq, at: new Date(input.at) })
      if (seq % ACTS_PER_SNAPSHOT === 0) await tx.insert(snapshot).values({ act: input.id, project: id, records })
    }
    if (revision !== row.revision) return { head: row.head, revision: row.revision, moved: false }
    const records = await recordsAt(tx, id, initial, head, known)
    await tx
      .update(project)
      .set({ head, revision: revision + 1, sending, name: records.name, ...records.canvas, changed: new Date() })
      .where(eq(project.id, id))
    return { head, revision: revision + 1, moved: true }
  })
}

/** The pictures of these records must be here, and stay as long as the project does. @param seen those of this transaction that were looked at already */
async function needPictures(tx: Transaction, id: string, records: Project, seen = new Set<string>()): Promise<void> {
  const named = picturesOfProject(records).filter(
    ({ asset, width, height }) => !seen.has(`${asset} ${width} ${height}`),
  )
  if (!named.length) return
  await requirePictures(named, tx)
  await tx
    .insert(projectAsset)
    .values(named.map(({ asset }) => ({ project: id, asset })))
    .onConflictDoNothing()
  for (const { asset, width, height } of named) seen.add(`${asset} ${width} ${height}`)
}

function applied(records: Project, input: ActInput): Project {
  let next: unknown
  try {
    next = applyChange(records, input.forward)
  } catch {
    throw new Problem(422, `The act “${input.label}” does not fit what it builds on.`)
  }
  return checkedRecords(next)
}

/** As it is shown now, without its history. @returns the new one's id */
export async function duplicateProject(id: string): Promise<string> {
  const records = await recordsOf(id),
    copy = randomUUID(),
    name = `${records.name.slice(0, LIMITS.name - COPY.length)}${COPY}`
  await createProject(copy, { ...records, name })
  const [row] = await database().select({ cover: project.cover }).from(project).where(eq(project.id, id))
  if (row?.cover) await setCover(copy, row.cover)
  return copy
}
const COPY = ', copy'

export async function setCover(id: string, webp: Buffer): Promise<void> {
  await database().update(project).set({ cover: webp }).where(eq(project.id, id))
}
/** Null while it has none. */
export async function getCover(id: string): Promise<Buffer | null> {
  const [row] = await database().select({ cover: project.cover }).from(project).where(eq(project.id, id))
  if (!row) throw notFound('project')
  return row.cover
}

/** What an export is named after and asked of, without its records. */
export async function aboutProject(
  id: string,
  head: string | null,
  layer: string | null,
): Promise<{ name: string; layer: { name: string; kind: Layer['kind']; masked: boolean } | null }> {
  const records = await recordsOf(id, head),
    found = layerById(records, layer)
  return {
    name: records.name,
    layer: found ? { name: found.name, kind: found.kind, masked: found.mask !== null } : null,
  }
}

/** The records after an act of the project; as it is shown now where none is named. */
export async function recordsOf(id: string, head?: string | null): Promise<Project> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select(standing).from(project).where(eq(project.id, id))
    if (!row) throw notFound('project')
    return recordsAt(tx, id, row.initial as Project, head === undefined ? row.head : head)
  })
}
