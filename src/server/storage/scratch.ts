/** Files of this process alone, while they are being made: in a folder named after it, so that others know when it is gone. */
import { randomUUID } from 'node:crypto'
import { mkdir, readdir, rm } from 'node:fs/promises'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { dataFolder } from './dataFolder'

const HERE = hostname().replace(/[^\w-]/g, '-')
const home = (): string => join(/* turbopackIgnore: true */ dataFolder(), 'scratch')

/** A path for a file or folder that is about to be made. */
export async function scratch(): Promise<string> {
  const own = join(home(), `${HERE}.${process.pid}`)
  await mkdir(own, { recursive: true, mode: 0o700 })
  return join(own, randomUUID())
}

/** Takes away what processes of this machine left that are no more. @param atStart this process has made nothing yet: what bears its number is an older one's */
export async function removeScratch(atStart = false): Promise<void> {
  for (const name of await readdir(home()).catch(() => [])) {
    const [host, pid] = name.split('.')
    const own = Number(pid) === process.pid
    if (host === HERE && (own ? atStart : !isAlive(Number(pid))))
      await rm(join(home(), name), { recursive: true, force: true })
  }
}

export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}
