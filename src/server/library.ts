/** The library: stored pictures by what they are for, in named groups, the same for every project. What projects show is found among "own". */
import { and, asc, countDistinct, desc, eq, isNotNull, notExists, sql } from 'drizzle-orm'
import { RecordError } from '@/core/fields/record'
import { parseSkyPicture, type SkyPicture } from '@/core/match/skyPicture'
import { type LibraryKind, type LibraryPicture, type PictureUses } from '@/document/library'
import { requirePictures } from './assets'
import { database } from './database/connection'
import { asset, batch, batchPicture, libraryPicture, project, projectAsset } from './database/schema'
import { type LibraryChangeInput, type LibraryInput } from './inputs'
import { notFound, Problem } from './problems'

const projects =
  sql<number>`(select count(*) from ${projectAsset} where ${projectAsset.asset} = ${asset.sha256})`.mapWith(Number)
const OF_ASSET = { asset: asset.sha256, width: asset.width, height: asset.height, ppi: asset.ppi, bytes: asset.bytes }

/** In the order they came in. */
export async function listLibrary(kind: LibraryKind): Promise<LibraryPicture[]> {
  const kept = await database()
    .select({
      ...OF_ASSET,
      name: libraryPicture.name,
      group: libraryPicture.group,
      added: libraryPicture.added,
      reads: libraryPicture.reads,
      projects,
    })
    .from(libraryPicture)
    .innerJoin(asset, eq(asset.sha256, libraryPicture.asset))
    .where(eq(libraryPicture.kind, kind))
    .orderBy(asc(libraryPicture.added), asc(libraryPicture.name))
  const shown = kind === 'own' ? await shownByProjects() : []
  return [
    ...kept.map((row) => ({ ...row, kept: true, reads: row.reads as SkyPicture | null })),
    ...shown.map((row) => ({ ...row, group: '', kept: false, reads: null, name: row.name! })),
  ].map((row) => ({ ...row, added: row.added.toISOString() }))
}
/** Pictures that people sent and a project shows, as long as the library has them in no other place. */
const shownByProjects = () =>
  database()
    .select({ ...OF_ASSET, name: asset.name, added: asset.created, projects })
    .from(asset)
    .where(
      and(
        isNotNull(asset.name),
        sql`exists (select 1 from ${projectAsset} where ${projectAsset.asset} = ${asset.sha256})`,
        notExists(
          database()
            .select({ one: sql`1` })
            .from(libraryPicture)
            .where(eq(libraryPicture.asset, asset.sha256)),
        ),
      ),
    )
    .orderBy(asc(asset.created))

/** Into the library; one that is there already keeps what is not said anew. Throws Problem when the picture is not stored. */
export async function putInLibrary({ kind, asset: picture, ...input }: LibraryInput): Promise<void> {
  await requirePictures([{ asset: picture }])
  const set = changeOf(kind, input)
  await database()
    .insert(libraryPicture)
    .values({ kind, asset: picture, ...set, name: set.name ?? (await nameOf(picture)) })
    .onConflictDoUpdate({ target: [libraryPicture.kind, libraryPicture.asset], set: { kind, ...set } })
}
const nameOf = async (picture: string): Promise<string> => {
  const [row] = await database().select({ name: asset.name }).from(asset).where(eq(asset.sha256, picture))
  return row?.name ?? 'Picture'
}

/** Throws Problem when it is not in the library. */
export async function changeInLibrary(kind: LibraryKind, picture: string, input: LibraryChangeInput): Promise<void> {
  const set = changeOf(kind, input)
  if (!Object.keys(set).length) return
  const changed = await database()
    .update(libraryPicture)
    .set(set)
    .where(isOne(kind, picture))
    .returning({ asset: libraryPicture.asset })
  if (!changed.length) throw notFound('picture of the library')
}

/** Out of the library; projects that show it keep it. */
export async function takeOutOfLibrary(kind: LibraryKind, picture: string): Promise<void> {
  await database().delete(libraryPicture).where(isOne(kind, picture))
}
const isOne = (kind: LibraryKind, picture: string) =>
  and(eq(libraryPicture.kind, kind), eq(libraryPicture.asset, picture))

/** The group of that name is called otherwise; it may join another. @param name empty: its pictures are in no group */
export async function renameLibraryGroup(kind: LibraryKind, group: string, name: string): Promise<void> {
  await database()
    .update(libraryPicture)
    .set({ group: name })
    .where(and(eq(libraryPicture.kind, kind), eq(libraryPicture.group, group)))
}

function changeOf(kind: LibraryKind, { name, group, reads }: LibraryChangeInput) {
  if (reads !== undefined && kind !== 'sky') throw new Problem(422, 'reads: only of a sky.')
  try {
    return {
      ...(name === undefined ? {} : { name }),
      ...(group === undefined ? {} : { group }),
      ...(reads === undefined ? {} : { reads: parseSkyPicture(reads) }),
    }
  } catch (error) {
    throw error instanceof RecordError ? new Problem(422, `reads.${error.message}`) : error
  }
}

/** More places than these are counted, not named. */
const MOST_PLACES = 50
/** Where a picture is used: projects any of whose states shows it, and batches of it; the newest first. */
export async function usesOf(picture: string): Promise<PictureUses> {
  const [inProjects, inBatches] = await Promise.all([
    database()
      .select({ id: project.id, name: project.name })
      .from(projectAsset)
      .innerJoin(project, eq(project.id, projectAsset.project))
      .where(eq(projectAsset.asset, picture))
      .orderBy(desc(project.changed))
      .limit(MOST_PLACES),
    database()
      .select({ id: batch.id, name: batch.name, pictures: countDistinct(batchPicture.number) })
      .from(batchPicture)
      .innerJoin(batch, eq(batch.id, batchPicture.batch))
      .where(eq(batchPicture.asset, picture))
      .groupBy(batch.id, batch.name)
      .orderBy(desc(batch.changed))
      .limit(MOST_PLACES),
  ])
  return { projects: inProjects, batches: inBatches.map(({ id, name }) => ({ id, name })) }
}
