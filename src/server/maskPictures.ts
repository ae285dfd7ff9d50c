/** The library of mask pictures: names of stored pictures, the same for every project. */
import { asc, eq } from 'drizzle-orm'
import { requirePictures } from './assets'
import { database } from './database/connection'
import { maskPicture } from './database/schema'

export interface MaskPicture {
  readonly asset: string
  readonly name: string
}

export const listMaskPictures = (): Promise<MaskPicture[]> =>
  database()
    .select({ asset: maskPicture.asset, name: maskPicture.name })
    .from(maskPicture)
    .orderBy(asc(maskPicture.added), asc(maskPicture.name))

/** Under its name; one that is there already gets the new name. Throws Problem when the picture is not stored. */
export async function keepMaskPicture(asset: string, name: string): Promise<void> {
  await requirePictures([{ asset }])
  await database()
    .insert(maskPicture)
    .values({ asset, name })
    .onConflictDoUpdate({ target: maskPicture.asset, set: { name } })
}

/** Out of the library; masks that are made of it keep it. */
export async function removeMaskPicture(asset: string): Promise<void> {
  await database().delete(maskPicture).where(eq(maskPicture.asset, asset))
}
