/** The library of skies: stored pictures in named groups, the same for every project. */
import { asc, eq } from 'drizzle-orm'
import { parseSkyPicture, type SkyPicture } from '@/core/match/skyPicture'
import { requirePictures } from './assets'
import { database } from './database/connection'
import { asset, sky } from './database/schema'
import { type SkyChangeInput, type SkyInput } from './inputs'
import { notFound, Problem } from './problems'

export interface Sky {
  readonly asset: string
  readonly name: string
  /** Empty: in none. */
  readonly group: string
  readonly width: number
  readonly height: number
  readonly ppi: number | null
  /** What its picture says; null as long as nobody has read it. */
  readonly reads: SkyPicture | null
}

export const listSkies = (): Promise<Sky[]> =>
  database()
    .select({
      asset: sky.asset,
      name: sky.name,
      group: sky.group,
      width: asset.width,
      height: asset.height,
      ppi: asset.ppi,
      reads: sky.reads,
    })
    .from(sky)
    .innerJoin(asset, eq(asset.sha256, sky.asset))
    .orderBy(asc(sky.added), asc(sky.name)) as Promise<Sky[]>

/** Into the library; one that is there already keeps its name and its group. Throws Problem when the picture is not stored. */
export async function addSky({ asset: picture, ...input }: SkyInput): Promise<void> {
  await requirePictures([{ asset: picture }])
  const set = changeOf(input)
  await database()
    .insert(sky)
    .values({ asset: picture, name: 'Sky', group: '', ...set })
    .onConflictDoUpdate({ target: sky.asset, set: { asset: picture, ...('reads' in set ? { reads: set.reads } : {}) } })
}

/** Throws Problem when it is not in the library. */
export async function changeSky(picture: string, input: SkyChangeInput): Promise<void> {
  const set = changeOf(input)
  if (!Object.keys(set).length) return
  const changed = await database().update(sky).set(set).where(eq(sky.asset, picture)).returning({ asset: sky.asset })
  if (!changed.length) throw notFound('sky')
}

/** Out of the library; projects that show it keep it. */
export async function removeSky(picture: string): Promise<void> {
  await database().delete(sky).where(eq(sky.asset, picture))
}

/** The group of that name is called otherwise; it may join another. */
export async function renameSkyGroup(group: string, name: string): Promise<void> {
  await database().update(sky).set({ group: name }).where(eq(sky.group, group))
}

function changeOf({ name, group, reads }: SkyChangeInput) {
  try {
    return {
      ...(name === undefined ? {} : { name }),
      ...(group === undefined ? {} : { group }),
      ...(reads === undefined ? {} : { reads: parseSkyPicture(reads) }),
    }
  } catch (error) {
    throw error instanceof RangeError ? new Problem(422, `reads.${error.message}`) : error
  }
}
