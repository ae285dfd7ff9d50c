import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { Pool } from 'pg'
import * as schema from './schema'

export type Database = NodePgDatabase<typeof schema>

/** Who is away says so at once; who is only slow (a machine with too much to do) gets this long. */
export const CONNECT_MS = 10_000

/** Kept on globalThis: Next.js may load this module more than once in a process. */
const store = globalThis as typeof globalThis & { wilyPool?: Pool }

export const database = (): Database => drizzle(databasePool(), { schema })

export function databasePool(): Pool {
  if (!store.wilyPool) {
    if (!process.env.DATABASE_URL)
      throw new Error('DATABASE_URL is not set: start with bin/start, or name a PostgreSQL server.')
    store.wilyPool = new Pool({
      connectionString: process.env.DATABASE_URL,
      max: 8,
      connectionTimeoutMillis: CONNECT_MS,
      idleTimeoutMillis: 30_000,
    })
    store.wilyPool.on('error', () => {}) // an idle connection died with its server: the next query makes a new one, or says so
    store.wilyPool.on('connect', (client) => client.on('error', () => {})) // one in use did, between two queries: the next one says so
  }
  return store.wilyPool
}

export const closeDatabase = async (): Promise<void> => {
  await store.wilyPool?.end()
  store.wilyPool = undefined
}
