/** What a crash left half done goes at the next start; pictures that nothing names go after their time, those of a deleted project soon. */
import { existsSync, readdirSync, writeFileSync } from 'node:fs'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { check } from './hands.mjs'

const post = async (application, path, body, headers = {}) => {
  const answer = await fetch(`${application.url}/api/${path}`, { method: 'POST', body, headers })
  check(answer.ok, `${path}: ${answer.status}`)
  return answer.json()
}
const picture = (colour) =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: colour } })
    .png()
    .toBuffer()

export async function roomGivenBack(application) {
  const [kept, shown, unnamed] = await Promise.all(
    ['#123456', '#345678', '#56789a'].map(
      async (colour) => (await post(application, 'pictures', await picture(colour))).asset,
    ),
  )
  const layer = (asset) => ({
    id: asset.slice(0, 8),
    kind: 'picture',
    name: 'p',
    asset,
    width: 40,
    height: 30,
    placement: [1, 0, 0, 1, 0, 0],
    opacity: 1,
    visible: true,
    mask: null,
  })
  const records = (asset) => ({
    version: 1,
    name: 'Room',
    canvas: { width: 40, height: 30 },
    ppi: 300,
    layers: [layer(asset)],
    activeLayer: null,
    selection: { version: 1, steps: [] },
    saved: [],
    paths: [],
    guides: [],
  })
  const json = { 'content-type': 'application/json' }
  const [stays, goes] = ['00000000-0000-4000-8000-0000000000f1', '00000000-0000-4000-8000-0000000000f2']
  await post(application, 'projects', JSON.stringify({ id: stays, records: records(kept) }), json)
  await post(application, 'projects', JSON.stringify({ id: goes, records: records(shown) }), json)
  // A picture that only an undone act names is named.
  const act = {
    id: '00000000-0000-4000-8000-0000000000f3',
    parent: null,
    label: 'Another',
    forward: { fields: { in: { layers: { entries: { add: [[null, layer(shown)]] } } } } },
    inverse: { fields: { in: { layers: { entries: { remove: [layer(shown).id] } } } } },
    at: '2026-11-27T08:00:00.000Z',
  }
  await post(
    application,
    `projects/${stays}/acts`,
    JSON.stringify({ acts: [act], head: null, revision: 0, sending: '00000000-0000-4000-8000-0000000000f4' }),
    json,
  )
  const file = (asset) => join(application.data, 'pictures', asset.slice(0, 2), asset)

  // A crash in the middle of receiving and exporting.
  writeFileSync(join(application.data, 'incoming', 'half-a-picture'), 'x')
  mkdirSync(join(application.data, 'exports'), { recursive: true })
  writeFileSync(join(application.data, 'exports', 'half-an-export.part'), 'x')
  application.sql("update asset set created = now() - interval '8 days'")
  await application.killServer()
  await application.restartServer()
  check(
    readdirSync(join(application.data, 'incoming')).length === 0 &&
      readdirSync(join(application.data, 'exports')).length === 0,
    'what a crash left is gone',
  )

  // Some seconds after the start it is swept.
  const gone = async (asset) => {
    for (let tries = 0; existsSync(file(asset)) && tries < 100; tries++)
      await new Promise((resolve) => setTimeout(resolve, 200))
    return !existsSync(file(asset))
  }
  check(await gone(unnamed), 'a picture that nothing names goes after its time')
  check(existsSync(file(kept)) && existsSync(file(shown)), 'what a project names, if only in its history, stays')

  // Deleting gives room back, after an hour in which another tab may still have it open.
  await fetch(`${application.url}/api/projects/${goes}`, { method: 'DELETE' })
  check((await fetch(`${application.url}/api/pictures/${shown}`)).ok, 'what another project names stays')
  await fetch(`${application.url}/api/projects/${stays}`, { method: 'DELETE' })
  check(existsSync(file(shown)), 'at first it stays')
  application.sql("update asset set created = created - interval '2 hours'")
  const third = '00000000-0000-4000-8000-0000000000f5'
  const { asset: other } = await post(application, 'pictures', await picture('#789abc'))
  await post(application, 'projects', JSON.stringify({ id: third, records: records(other) }), json)
  await fetch(`${application.url}/api/projects/${third}`, { method: 'DELETE' })
  check((await gone(shown)) && (await gone(kept)), 'then it goes')
  check(existsSync(file(other)), 'and what was deleted just now still waits')
}
