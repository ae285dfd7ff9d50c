/** Times by the database's clock: workers may run elsewhere. */
import { type SQL, sql } from 'drizzle-orm'

export const now = sql`now()`
export const agoMs = (ms: number): SQL => sql`now() - ${`${ms} milliseconds`}::interval`
