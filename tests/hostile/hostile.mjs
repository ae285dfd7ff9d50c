/** Files and bodies that are not what they seem, drawn at random: no answer is a 500, the server goes on answering, stays small, and keeps nothing of them. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { join } from 'node:path'
import { crc32, deflateSync } from 'node:zlib'
import sharp from 'sharp'

/** What a page reads of a sky. */
const SKY = {
  version: 2,
  size: { width: 90, height: 60 },
  horizonY: 50,
  light: { ambient: [0.4, 0.5, 0.6], direct: [0, 0, 0], open: 0.1 },
  air: [0.5, 0.5, 0.5],
  side: null,
  grain: 1,
  blur: null,
}
const HEALTH_EVERY_MS = 40
export const MOST_HEALTH_MS = 300,
  MOST_MB = 1500
const ASKED_AT_ONCE = 6
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** The processes of the server, and the greatest memory all together have had at one time, MB. */
const serverPid = (application) => Number(readFileSync(join(application.data, 'server.pid'), 'utf8'))
const residentMb = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024

// ---- files
async function goodFiles() {
  const photo = sharp({
    create: {
      width: 640,
      height: 420,
      channels: 3,
      background: '#507090',
      noise: { type: 'gaussian', mean: 120, sigma: 30 },
    },
  })
  const soft = photo.clone().ensureAlpha(0.5)
  return {
    jpg: await photo.clone().jpeg().toBuffer(),
    'turned.jpg': await photo.clone().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
    'print.jpg': await photo.clone().toColourspace('cmyk').jpeg().toBuffer(),
    png: await photo.clone().png().toBuffer(),
    'soft.png': await soft.clone().png().toBuffer(),
    'palette.png': await photo.clone().png({ palette: true }).toBuffer(),
    'deep.png': await photo.clone().toColourspace('rgb16').png().toBuffer(),
    webp: await soft.clone().webp().toBuffer(),
    tif: await photo.clone().tiff({ compression: 'lzw' }).toBuffer(),
    'plain.tif': await photo.clone().tiff({ compression: 'none' }).toBuffer(),
    'tiled.tif': await photo.clone().tiff({ tile: true, compression: 'deflate' }).toBuffer(),
    gif: await photo.clone().gif().toBuffer(),
    avif: await photo.clone().resize(160).avif({ effort: 0 }).toBuffer(),
  }
}
function pngChunk(type, data) {
  const body = Buffer.concat([Buffer.from(type), data]),
    out = Buffer.alloc(8 + body.length)
  out.writeUInt32BE(data.length)
  body.copy(out, 4)
  out.writeUInt32BE(crc32 ? crc32(body) : crcOf(body), 4 + body.length)
  return out
}
function crcOf(data) {
  let c = 0xffffffff
  for (const byte of data) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}
/** A PNG that says what it likes about its size, over few bytes. */
function claimingPng(width, height, colour = 0) {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width)
  header.writeUInt32BE(height, 4)
  header[8] = 8
  header[9] = colour
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    pngChunk('IHDR', header),
    pngChunk('IDAT', deflateSync(Buffer.alloc(Math.min(4e6, (width + 1) * height)))),
    pngChunk('IEND', Buffer.alloc(0)),
  ])
}

/** @returns [name, bytes] */
function drawFile(random, good) {
  const names = Object.keys(good),
    name = random.one(names),
    whole = good[name]
  const cut = () => whole.subarray(0, random.whole(1, whole.length))
  const flipped = () => {
    const out = Buffer.from(whole)
    for (let i = random.whole(1, 40); i > 0; i--) out[random.whole(0, out.length)] = random.whole(0, 256)
    return out
  }
  const patched = () => {
    // Sizes in headers, made huge: JPEG SOF, TIFF tags, GIF screen, WebP canvas.
    const out = Buffer.from(whole)
    if (name.endsWith('jpg')) {
      const sof = out.indexOf(Buffer.from([0xff, 0xc0]))
      if (sof > 0) out.writeUInt32BE(random.one([0xffffffff, 0x75307530, 0]), sof + 5)
    } else if (name.endsWith('tif')) {
      const directory = out.readUInt32LE(4)
      for (let i = 0; i < out.readUInt16LE(directory); i++) {
        const entry = directory + 2 + i * 12
        if ([256, 257, 273, 278, 279, 322, 323, 324, 325].includes(out.readUInt16LE(entry)) && random.chance(0.5))
          out.writeUInt32LE(random.one([0, 20_000, 0x7fffffff, 0xffffffff]), entry + 8)
      }
    } else for (let i = 6; i < 40; i++) if (random.chance(0.3)) out[i] = 255
    return out
  }
  const texts = [
    '<svg xmlns="http://www.w3.org/2000/svg" width="9000" height="9000"><image href="file:///etc/passwd"/></svg>',
    '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "bbbbbbbbbb">]><svg>&b;</svg>',
    '%PDF-1.7\n1 0 obj<<>>endobj',
    '<html><script>alert(1)</script></html>',
    'P6 99999 99999 255\n',
    '#!/bin/sh\necho no\n',
    'PK\x03\x04',
    '',
  ]
  return random.one([
    () => [name, cut()],
    () => [name, cut()],
    () => [name, flipped()],
    () => [name, flipped()],
    () => [name, patched()],
    () => [
      `claims.${random.one(['png', 'jpg', 'tif'])}`,
      claimingPng(random.one([1, 30_000, 65_535, 0x7fffffff]), random.one([1, 30_000, 65_535])),
    ],
    () => ['heavy.png', claimingPng(11_000, 11_000)],
    () => [random.one(['drawing.svg', 'photo.jpg', 'x.png']), Buffer.from(random.one(texts))],
    () => [
      name,
      Buffer.concat([
        whole.subarray(0, random.whole(8, 64)),
        Buffer.from(Array.from({ length: 5000 }, () => random.whole(0, 256))),
      ]),
    ],
    () => [random.one(names), whole],
    () => [random.one(['../../etc/passwd', 'a'.repeat(5000), '\u0000.png', '%', '\ud800.png', '\u202egnp.exe']), whole],
    () => ['after.jpg', Buffer.concat([whole, Buffer.alloc(200_000, 1)])],
  ])()
}

// ---- bodies
const records = (asset) => ({
  version: 1,
  name: 'Hostile',
  canvas: { width: 640, height: 420 },
  ppi: 300,
  layers: [
    {
      id: 'a',
      kind: 'picture',
      name: 'A',
      asset,
      width: 640,
      height: 420,
      placement: [1, 0, 0, 1, 0, 0],
      opacity: 1,
      visible: true,
      mask: {
        recipe: { version: 1, steps: [{ kind: 'ellipse', x: 1, y: 2, width: 30, height: 40, id: 's' }] },
        frame: { width: 640, height: 420 },
        scene: 'k',
        sceneLayer: 'a',
        saved: [],
        enabled: true,
        toLayer: [1, 0, 0, 1, 0, 0],
      },
    },
    {
      id: 'g',
      kind: 'group',
      name: 'G',
      width: 640,
      height: 420,
      placement: [1, 0, 0, 1, 0, 0],
      opacity: 1,
      visible: true,
      mask: null,
      passThrough: true,
    },
    {
      id: 'e',
      kind: 'adjust',
      name: 'E',
      width: 640,
      height: 420,
      placement: [1, 0, 0, 1, 0, 0],
      opacity: 1,
      visible: true,
      mask: null,
      parent: 'g',
      adjustment: { kind: 'exposure', stops: 1 },
    },
  ],
  scenes: [{ id: 'k', layers: [] }],
  activeLayer: 'a',
  selection: {
    version: 1,
    steps: [
      { kind: 'similarColour', at: [3, 4], id: 't' },
      { kind: 'feather', radius: 3, id: 'f' },
    ],
  },
  saved: [],
  paths: [],
  guides: [],
})
const ODD = [
  '\u0000',
  '\ud800',
  'a'.repeat(300),
  'x'.repeat(1e6),
  -1,
  1e308,
  2 ** 53,
  null,
  true,
  [],
  {},
  [[]],
  { __proto__: { a: 1 } },
  { id: 'a' },
  'NaN',
  '2026-02-31T25:61:61Z',
  0.5,
  '../..',
  [1, 2, 3, 4, 5, 6, 7],
]
/** One value somewhere in it becomes an odd one, goes, or comes twice. */
function spoilt(random, json) {
  const out = structuredClone(json)
  let place = out
  for (let depth = 0; depth < 12; depth++) {
    const keys = Object.keys(place)
    if (!keys.length) break
    const key = random.one(keys),
      value = place[key]
    if (typeof value === 'object' && value !== null && random.chance(0.75)) {
      place = value
      continue
    }
    const way = random()
    if (way < 0.65) place[key] = random.one(ODD)
    else if (way < 0.8) delete place[key]
    else if (Array.isArray(place)) place.push(...Array.from({ length: random.one([1, 600, 5000]) }, () => value))
    else place[random.one(['constructor', 'extra', '\u0000', 'toString'])] = random.one(ODD)
    break
  }
  return out
}
const deep = (open, close, times) => open.repeat(times) + close.repeat(times)

function drawBody(random, { project, asset, head }) {
  const act = () => ({
    id: randomUUID(),
    parent: head,
    label: 'made up',
    forward: {
      fields: { set: { name: 'x' }, in: { layers: { entries: { in: { a: { fields: { set: { opacity: 0.5 } } } } } } } },
    },
    inverse: { fields: { set: { name: 'Hostile' } } },
    at: '2026-11-27T08:00:00.000Z',
  })
  const sending = (acts) => ({ acts, head: acts.at(-1)?.id ?? null, revision: 0, sending: randomUUID() })
  const json = (body) => ({
    body: typeof body === 'string' ? body : JSON.stringify(body),
    headers: { 'content-type': 'application/json' },
  })
  const id = random.one([
    project,
    project,
    randomUUID(),
    'nope',
    '%00',
    '..%2f..',
    'a'.repeat(3000),
    `${project}\u00e9`,
  ])
  const looped = { ...records(asset), scenes: [{ id: 'k', layers: records(asset).layers }] }
  const paths = [
    'projects',
    `projects/${id}/acts`,
    'exports',
    'masks',
    'skies',
    'batches',
    `batches/${id}/run`,
    `batches/${id}/pictures`,
  ]
  const asks = [
    () => ['POST', 'projects', json({ id: randomUUID(), records: spoilt(random, records(asset)) })],
    () => ['POST', 'projects', json({ id: randomUUID(), records: spoilt(random, records(asset)) })],
    () => ['POST', 'projects', json({ id: randomUUID(), records: looped })],
    () => ['POST', 'projects', json(spoilt(random, { id: randomUUID(), records: records(asset) }))],
    () => ['POST', `projects/${id}/acts`, json(spoilt(random, sending([act()])))],
    () => ['POST', `projects/${id}/acts`, json(sending([{ ...act(), forward: spoilt(random, act().forward) }]))],
    () => [
      'POST',
      `projects/${project}/acts`,
      json(sending([{ ...act(), forward: { to: spoilt(random, records(asset)) } }])),
    ],
    () => [
      'POST',
      `projects/${project}/acts`,
      json({ ...sending([]), acts: Array.from({ length: random.one([100, 100_000]) }, () => ({})) }),
    ],
    () => [
      'POST',
      `projects/${project}/acts`,
      json(sending([{ ...act(), forward: { fields: { set: { name: 'n'.repeat(3e6) } } } }])),
    ],
    () => [
      'POST',
      `projects/${project}/acts`,
      json(sending([{ ...act(), label: random.one(['\u0000', '\ud83d', 'l'.repeat(201), '']) }])),
    ],
    () => [
      'POST',
      `projects/${project}/acts`,
      json(
        sending([
          {
            ...act(),
            at: random.one(['2026-02-31', 'yesterday', '+275760-09-13T00:00:00.000Z', '2026-11-27T08:00:00.000+99:99']),
          },
        ]),
      ),
    ],
    () => [
      'POST',
      random.one(paths),
      json(deep(random.one(['[', '{"a":']), random.one([']', '}']), random.one([200, 200_000]))),
    ],
    () => [
      'POST',
      random.one(paths),
      json(random.one(['', 'null', '[]', '3', '{', '"\\ud800"', '{"a":1}x', '\ufeff{}'])),
    ],
    () => [
      'POST',
      random.one(paths),
      {
        body: 'a=1&b=2',
        headers: { 'content-type': random.one(['text/plain', 'application/x-www-form-urlencoded', '']) },
      },
    ],
    () => [
      'POST',
      random.one(paths),
      { endless: random.one([64, 200]) * 1024 * 1024, headers: { 'content-type': 'application/json' } },
    ],
    () => [
      'POST',
      'exports',
      json(
        spoilt(random, { project, head: null, what: 'composite', format: 'png', quality: 90, background: '#ffffff' }),
      ),
    ],
    () => ['POST', 'masks', json(spoilt(random, { asset, name: 'm' }))],
    () => [random.one(['POST', 'PATCH']), 'skies', json(spoilt(random, { asset, group: 'g', name: 's', reads: SKY }))],
    () => ['PATCH', `skies/${asset}`, json(spoilt(random, { name: 's', reads: SKY }))],
    () => [
      'PUT',
      `projects/${id}/cover`,
      { body: random.one(['', 'RIFF....WEBP', 'x'.repeat(400_000)]), headers: { 'content-type': 'image/webp' } },
    ],
    () => ['GET', `projects/${random.one([id, encodeURIComponent('\u0000'), "' or 1=1 --"])}`, {}],
    () => ['GET', `projects/${project}/acts?after=${random.one(['-1', 'x', '1e99', '0x10', '%00'])}`, {}],
    () => [
      'GET',
      `pictures/${random.one(['..', 'a'.repeat(64), 'A'.repeat(64), '%2e%2e%2fpostgres.password', '\u0000'.repeat(3)].map(encodeURIComponent))}`,
      {},
    ],
    () => [
      'DELETE',
      `${random.one(['skies', 'masks'])}/${random.one(['..', 'A'.repeat(64), '\u0000', "' or 1=1 --"].map(encodeURIComponent))}`,
      {},
    ],
    () => ['GET', `exports/${id}/file`, {}],
    () => ['DELETE', `projects/${random.one(['x', randomUUID()])}`, {}],
    () => [
      random.one(['GET', 'POST', 'DELETE']),
      random.one(['projects', `projects/${project}`]),
      { headers: { host: 'evil.example', 'content-type': 'application/json' }, body: '{}', foreign: true },
    ],
    () => [
      random.one(['GET', 'POST', 'DELETE']),
      random.one(['projects', `projects/${project}`]),
      { headers: { origin: 'http://evil.example', 'content-type': 'application/json' }, body: '{}', foreign: true },
    ],
    () => [
      random.one(['GET', 'POST']),
      random.one(['projects', 'masks']),
      {
        headers: { 'sec-fetch-site': random.one(['cross-site', 'same-site']), 'content-type': 'application/json' },
        body: '{}',
        foreign: true,
      },
    ],
  ]
  return random.one(asks)()
}

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
