/** Files and bodies that are not what they seem: no answer is a 500, the server goes on answering, stays small, and keeps nothing of them. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { join } from 'node:path'
import { goodFiles, drawFile } from './files.mjs'
import { records, drawBody } from './bodies.mjs'

const HEALTH_EVERY_MS = 40
export const MOST_HEALTH_MS = 300,
  MOST_MB = 1500
const ASKED_AT_ONCE = 6
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** The processes of the server, and the greatest memory all together have had at one time, MB. */
const serverPid = (application) => Number(readFileSync(join(application.data, 'server.pid'), 'utf8'))
const residentMb = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024

/** Node's fetch does not let a Host be said. */
function ask(application, method, path, { body, headers = {}, endless } = {}) {
  const url = new URL(`/api/${path}`, application.url)
  return new Promise((resolve, reject) => {
    const request = httpRequest(
      {
        host: url.hostname,
        port: url.port,
        path: `/api/${path}`.replace(/[\u0000-\u0020\u007f-\uffff]/g, encodeURIComponent),
        method,
        headers: { host: url.host, ...headers },
      },
      (response) => {
        const parts = []
        response.on('data', (part) => parts.push(part))
        response.on('end', () => resolve({ status: response.statusCode, text: Buffer.concat(parts).toString() }))
        response.on('error', () => resolve({ status: response.statusCode, text: Buffer.concat(parts).toString() }))
      },
    )
    // A server that has answered may hang up on what is still coming.
    request.on('error', (error) => (endless ? resolve({ status: 0, text: '' }) : reject(error)))
    if (!endless) {
      request.end(method === 'GET' ? undefined : body)
      return
    }
    const part = Buffer.alloc(1 << 20, '[1,2],')
    let sent = 0
    const more = () => {
      while (sent < endless) {
        sent += part.length
        if (!request.write(part)) {
          request.once('drain', more)
          return
        }
      }
      request.end()
    }
    more()
  })
}

/** @returns figures, and what was wrong */
export async function drawHostile(application, { files, bodies, random, say = () => {} }) {
  const troubles = [],
    statuses = {}
  let healthMost = 0,
    healthSum = 0,
    healthCount = 0,
    mb = 0,
    done = false
  const watching = (async () => {
    while (!done) {
      const began = performance.now()
      const answer = await fetch(`${application.url}/api/health`).catch((error) => ({ ok: false, error }))
      const took = performance.now() - began
      if (!answer.ok) troubles.push(`health: ${answer.status ?? answer.error}`)
      healthMost = Math.max(healthMost, took)
      healthSum += took
      healthCount++
      mb = Math.max(mb, residentMb(serverPid(application)))
      await pause(HEALTH_EVERY_MS)
    }
  })()
  const looked = (what, { status, text }) => {
    statuses[status] = (statuses[status] ?? 0) + 1
    if (status >= 500 && status !== 503) troubles.push(`${what}: ${status} ${text.slice(0, 200)}`)
    if (status >= 400) {
      let problem
      try {
        ;({ problem } = JSON.parse(text))
      } catch {
        /* not ours */
      }
      if (!problem && status !== 404 && status !== 405 && status !== 400)
        troubles.push(`${what}: ${status} without a sentence: ${text.slice(0, 120)}`)
    }
  }
  const several = async (count, one) => {
    let next = 0
    await Promise.all(
      Array.from({ length: ASKED_AT_ONCE }, async () => {
        while (next < count) {
          const n = next++
          await one(n)
          if (n % 100 === 99)
            say(`${n + 1} asked; health at most ${healthMost.toFixed(0)} ms, memory ${mb.toFixed(0)} MB`)
        }
      }),
    )
  }

  const good = await goodFiles()
  await several(files, async (n) => {
    const [name, bytes] = drawFile(random, good)
    let header
    try {
      header = encodeURIComponent(name)
    } catch {
      header = name.replace(/[^ -~]/g, '?')
    }
    const answer = await fetch(`${application.url}/api/pictures`, {
      method: 'POST',
      body: bytes,
      headers: { 'x-file-name': header },
    })
    looked(`file ${n} ${name.slice(0, 30)}`, { status: answer.status, text: await answer.text() })
  })

  const { asset } = await (await fetch(`${application.url}/api/pictures`, { method: 'POST', body: good.jpg })).json()
  const project = randomUUID()
  const made = await ask(application, 'POST', 'projects', {
    body: JSON.stringify({ id: project, records: records(asset) }),
    headers: { 'content-type': 'application/json' },
  })
  if (made.status !== 200) troubles.push(`the good project: ${made.status} ${made.text}`)
  await several(bodies, async (n) => {
    const [method, path, options] = drawBody(random, { project, asset, head: null })
    const answer = await ask(application, method, path, options)
    looked(`body ${n} ${method} ${path.slice(0, 60)}`, answer)
    // What no handler is there for is refused anyway.
    if (options.foreign && ![400, 403, 405].includes(answer.status))
      troubles.push(`body ${n}: ${method} ${path} from elsewhere is answered by ${answer.status}`)
  })
  // The good project is as it was but for its acts, and opens.
  const opened = await ask(application, 'GET', `projects/${project}`)
  if (opened.status !== 200)
    troubles.push(`the good project does not open any more: ${opened.status} ${opened.text.slice(0, 200)}`)
  for (let tries = 0; application.scratchFiles().length && tries < 50; tries++) await pause(200)
  const left = application.scratchFiles()
  if (left.length) troubles.push(`left over: ${left.join(', ')}`)
  done = true
  await watching
  if (healthMost > MOST_HEALTH_MS) troubles.push(`health took up to ${healthMost.toFixed(0)} ms`)
  if (mb > MOST_MB) troubles.push(`the server took ${mb.toFixed(0)} MB`)
  return { troubles, statuses, healthMost, healthMean: healthSum / healthCount, mb }
}
