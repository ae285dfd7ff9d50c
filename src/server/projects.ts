/** Projects and their acts. Every write is one transaction and may be sent again: ids are the client's. */
import { applyPatches, enablePatches, type Patch } from 'immer'
import { and, asc, desc, eq, sql } from 'drizzle-orm'
import { type Act } from '@/document/history'
import { picturesOfProject } from '@/document/tree'
import { type Project } from '@/document/types'
import { isRecordError, parseProject } from '@/document/validate'
import { requirePictures } from './assets'
import { database, type Database } from './database/connection'
import { act, project, snapshot } from './database/schema'
import { type ActInput } from './inputs'
import { notFound, Problem } from './problems'

enablePatches()

/** A snapshot stands after every so many acts on a path. */
const ACTS_PER_SNAPSHOT = 25

export interface ProjectSummary {
  id: string
  name: string
  width: number
  height: number
  changed: string
  hasCover: boolean
}
export interface OpenProject {
  id: string
  initial: Project
  acts: Act[]
  head: string | null
  records: Project
}
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
  await requirePictures(picturesOfProject(records))
  await database()
    .insert(project)
    .values({ id, name: records.name, ...records.canvas, initial: records })
    .onConflictDoNothing()
}

export async function openProject(id: string): Promise<OpenProject> {
  return database().transaction(async (tx) => {
    const [row] = await tx
      .select({ initial: project.initial, head: project.head })
      .from(project)
      .where(eq(project.id, id))
    if (!row) throw notFound('project')
    const rows = await tx.select().from(act).where(eq(act.project, id)).orderBy(asc(act.seq))
    const acts = rows.map(({ id: actId, parent, label, forward, inverse, at }): Act => ({
      id: actId,
      parent,
      label,
      forward: forward as Patch[],
      inverse: inverse as Patch[],
      at: at.toISOString(),
    }))
    return {
      id,
      initial: row.initial as Project,
      acts,
      head: row.head,
      records: await recordsAt(tx, id, row.initial as Project, row.head),
    }
  })
}

/** The records after an act: from the nearest snapshot on its path, or the start. */
async function recordsAt(tx: Transaction, id: string, initial: Project, head: string | null): Promise<Project> {
  const path: Patch[][] = []
  let records: Project | null = null
  for (let current = head; current;) {
    const [known] = await tx.select({ records: snapshot.records }).from(snapshot).where(eq(snapshot.act, current))
    if (known) {
      records = known.records as Project
      break
    }
    const [row] = await tx
      .select({ parent: act.parent, forward: act.forward })
      .from(act)
      .where(and(eq(act.id, current), eq(act.project, id)))
    if (!row) throw new Problem(422, 'This act builds on one that is not stored here.')
    path.unshift(row.forward as Patch[])
    current = row.parent
  }
  // Records stored in an earlier form are completed before anything is applied to them.
  return path.reduce((state, patches) => applyPatches(state, patches), checkedRecords(records ?? initial))
}

/** Stores acts in order and moves the head. An act that is there already is passed over. Throws Problem for one that does not apply. */
export async function storeActs(id: string, acts: readonly ActInput[], head: string | null): Promise<void> {
  await database().transaction(async (tx) => {
    const [row] = await tx.select({ initial: project.initial }).from(project).where(eq(project.id, id)).for('update')
    if (!row) throw notFound('project')
    const [{ last }] = await tx
      .select({ last: sql<number>`coalesce(max(${act.seq}), 0)`.mapWith(Number) })
      .from(act)
      .where(eq(act.project, id))
    let seq = last
    for (const input of acts) {
      const [known] = await tx.select({ project: act.project }).from(act).where(eq(act.id, input.id))
      if (known) {
        if (known.project !== id) throw new Problem(422, 'An act of this id belongs to another project.')
        continue
      }
      const records = applied(await recordsAt(tx, id, row.initial as Project, input.parent), input)
      await requirePictures(picturesOfProject(records), tx)
      seq++
      await tx
        .insert(act)
        .values({ ...input, forward: input.forward, inverse: input.inverse, project: id, seq, at: new Date(input.at) })
      if (seq % ACTS_PER_SNAPSHOT === 0) await tx.insert(snapshot).values({ act: input.id, project: id, records })
    }
    const records = await recordsAt(tx, id, row.initial as Project, head)
    await tx
      .update(project)
      .set({ head, name: records.name, ...records.canvas, changed: new Date() })
      .where(eq(project.id, id))
  })
}

function applied(records: Project, input: ActInput): Project {
  let next: unknown
  try {
    next = applyPatches(records, input.forward as Patch[])
  } catch {
    throw new Problem(422, `The act “${input.label}” does not fit what it builds on.`)
  }
  return checkedRecords(next)
}

export async function deleteProject(id: string): Promise<void> {
  await database().delete(project).where(eq(project.id, id))
}

export async function setCover(id: string, webp: Buffer): Promise<void> {
  await database().update(project).set({ cover: webp }).where(eq(project.id, id))
}
export async function getCover(id: string): Promise<Buffer> {
  const [row] = await database().select({ cover: project.cover }).from(project).where(eq(project.id, id))
  if (!row?.cover) throw notFound('cover')
  return row.cover
}

/** The records shown after an act of the project, for export. */
export async function recordsOf(id: string, head: string | null): Promise<Project> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select({ initial: project.initial }).from(project).where(eq(project.id, id))
    if (!row) throw notFound('project')
    return recordsAt(tx, id, row.initial as Project, head)
  })
}
