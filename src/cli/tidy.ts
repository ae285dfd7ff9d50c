/** wily tidy: what the server takes away now and then, told or taken away now. */
import { isDatabaseGone } from '@/server/problems'
import { closeDatabase } from '@/server/database/connection'
import { type Rubbish, rubbish } from '@/server/tidy/rubbish'
import { Unusable } from './files'

export async function tidy(dry: boolean): Promise<void> {
  if (!process.env.DATABASE_URL) throw new Unusable('DATABASE_URL is not set: name the project’s PostgreSQL server.')
  const found = new Map<Rubbish['what'], { count: number; bytes: number }>()
  try {
    for await (const each of rubbish()) {
      const { count, bytes } = found.get(each.what) ?? { count: 0, bytes: 0 }
      found.set(each.what, { count: count + 1, bytes: bytes + each.bytes })
      if (!dry) await each.remove()
    }
  } catch (error) {
    throw isDatabaseGone(error) ? new Unusable('The database cannot be reached.') : error
  } finally {
    await closeDatabase()
  }
  for (const [what, { count, bytes }] of found)
    process.stdout.write(`${count} ${what}: ${(bytes / 1e6).toFixed(1)} MB\n`)
  process.stdout.write(
    found.size ? `${dry ? 'Would be taken away.' : 'Taken away.'}\n` : 'There is nothing to take away.\n',
  )
}
