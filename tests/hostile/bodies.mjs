/** Bodies and requests that are not what they seem, drawn at random. */
import { randomUUID } from 'node:crypto'

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
export const records = (asset) => ({
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
export const deep = (open, close, times) => open.repeat(times) + close.repeat(times)

export function drawBody(random, { project, asset, head }) {
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
