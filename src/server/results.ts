/** Costly results of a project's steps (engine/storedResults.ts), as grey PNG files. There is room for so many; those used longest ago go first. */
import { writeFile } from 'node:fs/promises'
import { and, asc, eq, sum } from 'drizzle-orm'
import sharp from 'sharp'
import { LIMITS } from '@/document/limits'
import { type StoredResults } from '@/engine/storedResults'
import { database } from './database/connection'
import { project, result } from './database/schema'
import { notFound, Problem } from './problems'
import { KEYS } from './storage/keys'
import { scratch } from './storage/scratch'
import { storage } from './storage/store'

/** Of one result, of those of a project, and of all, bytes. */
export const RESULT_BYTES = 48 << 20
const PROJECT_BYTES = 256 << 20,
  ALL_BYTES = 2 ** 31

/** Throws Problem for what is no name of a result. */
export function resultName(name: string): string {
  if (!/^[0-9a-f]{64}$/.test(name)) throw notFound('result')
  return name
}

/** By name, with the versions that made each. */
export async function listResults(id: string): Promise<{ name: string; version: string }[]> {
  return database().select({ name: result.name, version: result.version }).from(result).where(eq(result.project, id))
}

/** The key of its file; it counts as used. Throws Problem where there is none. */
export async function useResult(id: string, name: string): Promise<string> {
  const [row] = await database()
    .update(result)
    .set({ used: new Date() })
    .where(and(eq(result.project, id), eq(result.name, name)))
    .returning({ name: result.name })
  if (!row) throw notFound('result')
  return KEYS.result(id, name)
}

/** Those of a project, for whoever draws it here. */
export async function storedResults(id: string): Promise<StoredResults> {
  const versions = new Map((await listResults(id)).map(({ name, version }) => [name, version]))
  return {
    version: (name) => versions.get(name),
    async read(name) {
      try {
        const { data, info } = await sharp(await storage().local(KEYS.result(id, name)), {
          limitInputPixels: LIMITS.pixels,
        })
          .toColourspace('b-w')
          .extractChannel(0)
          .raw()
          .toBuffer({ resolveWithObject: true })
        return { width: info.width, height: info.height, data: new Uint8Array(data) }
      } catch {
        return null // found anew
      }
    },
  }
}

/** @param png grey, 8 bits. Throws Problem for anything else */
export async function keepResult(id: string, name: string, version: string, png: Uint8Array): Promise<void> {
  if (!isGreyPng(Buffer.from(png.buffer, png.byteOffset, png.byteLength)))
    throw new Problem(422, 'A result is a grey PNG of 8 bits.')
  if (!version || version.length > 2000) throw new Problem(422, 'A result says which versions made it.')
  const [known] = await database().select({ id: project.id }).from(project).where(eq(project.id, id))
  if (!known) throw notFound('project')
  const file = await scratch()
  await writeFile(file, png)
  await storage().put(KEYS.result(id, name), file)
  const row = { version, bytes: png.byteLength, used: new Date() }
  await database()
    .insert(result)
    .values({ project: id, name, ...row })
    .onConflictDoUpdate({ target: [result.project, result.name], set: row })
  await makeRoom(PROJECT_BYTES, eq(result.project, id))
  await makeRoom(ALL_BYTES)
}

export async function forgetResult(id: string, name: string): Promise<void> {
  await database()
    .delete(result)
    .where(and(eq(result.project, id), eq(result.name, name)))
  await storage().remove(KEYS.result(id, name))
}

async function makeRoom(most: number, of?: ReturnType<typeof eq>): Promise<void> {
  const [{ bytes }] = await database()
    .select({ bytes: sum(result.bytes).mapWith(Number) })
    .from(result)
    .where(of)
  for (let over = (bytes ?? 0) - most; over > 0;) {
    const [oldest] = await database().select().from(result).where(of).orderBy(asc(result.used)).limit(1)
    if (!oldest) return
    await forgetResult(oldest.project, oldest.name)
    over -= oldest.bytes
  }
}

/** Its signature and header. Source: W3C PNG (Third Edition), sections 5.2 and 11.2.1. */
function isGreyPng(bytes: Buffer): boolean {
  if (bytes.length < 33 || bytes.toString('latin1', 0, 8) !== '\x89PNG\r\n\x1a\n') return false
  if (bytes.toString('latin1', 12, 16) !== 'IHDR') return false
  const width = bytes.readUInt32BE(16),
    height = bytes.readUInt32BE(20)
  return (
    width > 0 &&
    height > 0 &&
    width <= LIMITS.side &&
    height <= LIMITS.side &&
    width * height <= LIMITS.pixels &&
    bytes[24] === 8 &&
    bytes[25] === 0
  )
}
