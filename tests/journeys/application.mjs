/** The application under test: bin/start on data and a port of its own, and its database, which a journey may kill. */
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '../..')
const START_MS = 240_000

const freePort = () =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })

export async function startApplication() {
  const data = mkdtempSync(join(tmpdir(), 'wily-journeys-'))
  execFileSync('chmod', ['755', data])
  const port = await freePort()
  let child
  const start = () =>
    new Promise((resolve, reject) => {
      let said = ''
      child = spawn(join(root, 'bin/start'), ['--port', String(port), '--data', data], {
        stdio: ['ignore', 'pipe', 'pipe'],
        env: { ...process.env, DATABASE_URL: '' },
      })
      const timer = setTimeout(() => reject(new Error(`bin/start did not come up:\n${said}`)), START_MS)
      const listen = (chunk) => {
        said += chunk
        if (said.includes(' is at http')) {
          clearTimeout(timer)
          resolve()
        }
      }
      child.stdout.on('data', listen)
      child.stderr.on('data', listen)
      child.on('exit', (code) => reject(new Error(`bin/start ended with ${code}:\n${said}`)))
    })
  await start()
  /** Runs a line with bin/start's own database functions. */
  const shell = (line) =>
    execFileSync(
      'bash',
      [
        '-c',
        `set -euo pipefail; root='${root}'; data='${data}'; source "$root/bin/lib/machine.sh"; source "$root/bin/lib/build.sh"; source "$root/bin/lib/database.sh"; ${line}`,
      ],
      { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] },
    ).trim()
  const psql =
    'database_place; "$pg_bin/psql" -qAt "postgres://wily:$(cat "$data/postgres.password")@127.0.0.1:$(sed -n 4p "$pg_data/postmaster.pid")/postgres"'
  return {
    url: `http://127.0.0.1:${port}`,
    data,
    /** Kills the database as a power cut would: no shutdown, its lock file stays. */
    killDatabase: () =>
      shell('database_place; pid=$(database_process); children=$(pgrep -P "$pid" || true); kill -9 $pid $children'),
    restartDatabase: () => shell('database_start'),
    databaseProcesses: () =>
      shell('database_place; pid=$(database_process); echo $pid $(pgrep -P "$pid" || true)').split(/\s+/).map(Number),
    databasePort: () => Number(shell('database_place; sed -n 4p "$pg_data/postmaster.pid"')),
    sql: (statement) => shell(`${psql} -c ${JSON.stringify(statement)}`),
    /** Many statements, in one transaction. */
    sqlFile(statements) {
      const file = join(data, 'statements.sql')
      writeFileSync(file, statements)
      shell(`${psql} -1 -v ON_ERROR_STOP=1 -f '${file}'`)
    },
    /** Kills the server as a crash would; bin/start notices and ends. */
    async killServer() {
      child.removeAllListeners('exit')
      const ended = new Promise((resolve) => child.on('exit', resolve))
      process.kill(Number(readFileSync(join(data, 'server.pid'), 'utf8')), 'SIGKILL')
      await ended
    },
    restartServer: start,
    /** Files that are being received or made. */
    scratchFiles: () =>
      readdirSync(join(data, 'scratch'), { recursive: true, withFileTypes: true })
        .filter((entry) => entry.isFile())
        .map(({ name }) => name),
    /** The process that makes exports and batches. */
    workerProcess: () => Number(readFileSync(join(data, 'worker.pid'), 'utf8')),
    log: () => readFileSync(join(data, 'server.log'), 'utf8'),
    async stop() {
      const ended = new Promise((resolve) => child.on('exit', resolve))
      child.removeAllListeners('exit')
      child.on('exit', () => {})
      const gone = new Promise((resolve) => child.once('close', resolve))
      child.kill('SIGINT')
      await Promise.race([ended, gone])
      const left = shell('database_place; database_process')
      rmSync(data, { recursive: true, force: true })
      if (left) throw new Error(`bin/start left its database running (${left}).`)
    },
  }
}
