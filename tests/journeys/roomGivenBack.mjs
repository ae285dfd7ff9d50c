/** What a crash left half done goes at the next start; pictures that nothing names go after their time, those of a deleted project soon. */
import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs'
import { hostname } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { makeProject, pictureLayer, post, recordsWith, renaming, storePicture } from '../madeUp/project.mjs'
import { check } from './hands.mjs'

/** No process has this number: more than Linux gives out. */
const NO_PROCESS = 4_999_999

const picture = (colour) =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: colour } })
    .png()
    .toBuffer()

export async function roomGivenBack(application) {
  const [kept, shown, unnamed] = await Promise.all(
    ['#123456', '#345678', '#56789a'].map(async (colour) => storePicture(application, await picture(colour))),
  )
  const size = { width: 40, height: 30 },
    layer = (asset) => pictureLayer(asset.slice(0, 8), asset, size),
    records = (asset) => recordsWith([layer(asset)], size)
  const [stays, goes] = [await makeProject(application, records(kept)), await makeProject(application, records(shown))]
  // A picture that only an undone act names is named.
  const added = { fields: { in: { layers: { entries: { add: [[null, layer(shown)]] } } } } },
    removed = { fields: { in: { layers: { entries: { remove: [layer(shown).id] } } } } }
  const act = { ...renaming('Another', 'Made up', null), forward: added, inverse: removed }
  await post(application, `projects/${stays}/acts`, { acts: [act], head: null, revision: 0, sending: randomUUID() })
  const file = (asset) => join(application.data, 'pictures', asset.slice(0, 2), asset)

  // A crash in the middle of receiving and exporting.
  const gone = `${hostname().replace(/[^\w-]/g, '-')}.${NO_PROCESS}`
  for (const folder of [join('scratch', gone), 'exports'])
    mkdirSync(join(application.data, folder), { recursive: true })
  writeFileSync(join(application.data, 'scratch', gone, 'half-a-picture'), 'x')
  const stray = join(application.data, 'exports', randomUUID())
  writeFileSync(stray, 'x')
  utimesSync(stray, new Date(0), new Date(0))
  application.sql("update asset set created = now() - interval '8 days'")
  await application.killServer()
  await application.restartServer()
  check(
    !readdirSync(join(application.data, 'scratch')).includes(gone),
    'what a process that is no more was making is gone',
  )

  // Some seconds after the start it is swept.
  const vanished = async (path) => {
    for (let tries = 0; existsSync(path) && tries < 100; tries++)
      await new Promise((resolve) => setTimeout(resolve, 200))
    return !existsSync(path)
  }
  check(await vanished(stray), 'an export that no record names goes')
  check(await vanished(file(unnamed)), 'a picture that nothing names goes after its time')
  check(existsSync(file(kept)) && existsSync(file(shown)), 'what a project names, if only in its history, stays')

  // Deleting gives room back, after an hour in which another tab may still have it open.
  await fetch(`${application.url}/api/projects/${goes}`, { method: 'DELETE' })
  check((await fetch(`${application.url}/api/pictures/${shown}`)).ok, 'what another project names stays')
  await fetch(`${application.url}/api/projects/${stays}`, { method: 'DELETE' })
  check(existsSync(file(shown)), 'at first it stays')
  application.sql("update asset set created = created - interval '2 hours'")
  const other = await storePicture(application, await picture('#789abc')),
    third = await makeProject(application, records(other))
  await fetch(`${application.url}/api/projects/${third}`, { method: 'DELETE' })
  check((await vanished(file(shown))) && (await vanished(file(kept))), 'then it goes')
  check(existsSync(file(other)), 'and what was deleted just now still waits')
}
