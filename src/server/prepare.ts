/** Run by bin/start before the server: brings the database's tables up to date, and fills an empty database with the demo. */
import { createReadStream } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { parseStep } from '@/core/formats/recipe'
import { addStep, makeMask, projectOf } from '@/document/edits'
import { activateLayer, addPicture, changeLayer, placeLayer } from '@/document/layers'
import { EMPTY_HISTORY, perform, type Act, type Edit } from '@/document/history'
import { type LibraryKind } from '@/document/library'
import { type Project, SELECTION } from '@/document/records'
import { storePicture } from './assets'
import { closeDatabase, database } from './database/connection'
import { project } from './database/schema'
import { boss, prepareQueues } from './jobs/boss'
import { listLibrary, putInLibrary } from './library'
import { createProject, setCover, storeActs } from './projects'

const root = process.argv[2] ?? process.cwd()
/** A picture that comes with the application, as if it had been sent under this name. */
const store = async (file: string, name: string) => ({
  ...(await storePicture(Readable.toWeb(createReadStream(join(root, file))) as ReadableStream<Uint8Array>, name)),
  name,
})

/** Stores a project that was made by these edits, so that its history is there to look at. */
async function seed(id: string, start: Project, edits: [label: string, edit: Edit][], cover: string): Promise<void> {
  await createProject(id, start)
  let state = { project: start, history: EMPTY_HISTORY }
  const acts: Act[] = []
  edits.forEach(([label, edit], i) => {
    const done = perform(
      state.project,
      state.history,
      label,
      edit,
      `${id.slice(0, -3)}${(i + 1).toString(16).padStart(3, '0')}`,
      new Date().toISOString(),
    )
    if (done) {
      state = done
      acts.push(done.act)
    }
  })
  await storeActs(id, { acts: acts as never, head: state.history.head, revision: 0, sending: randomUUID() })
  await setCover(id, await readFile(join(root, 'demo/covers', cover)))
}

/** The demo: one photo to start on, one composite to take apart, pictures to lay over each other. */
async function seedDemo(): Promise<void> {
  const of = (file: string, name: string) => store(`demo/pictures/${file}`, name)
  const otterLarge = await of('otter-puppet-24mp.jpg', 'Otter puppet, large'),
    otter = await of('otter-puppet.jpg', 'Otter puppet'),
    quay = await of('lantern-quay.jpg', 'Lantern quay')
  const stage = await of('puppet-stage.jpg', 'Puppet stage'),
    amber = await of('sky-amber.jpg', 'Amber sky'),
    morning = await of('sky-morning.jpg', 'Morning sky')
  const page = projectOf('Programme page, otter on the quay', otter, 'otter')
  await seed(
    '00000000-0000-4000-8000-00000000b000',
    page,
    [
      [
        'Similar',
        addStep(
          SELECTION,
          parseStep({ kind: 'similarColour', id: 'wall-left', at: [130, 320], tolerance: 34, patch: 5 }),
        ),
      ],
      [
        'Similar',
        addStep(
          SELECTION,
          parseStep({ kind: 'similarColour', id: 'wall-right', at: [1660, 900], tolerance: 34, patch: 5 }),
        ),
      ],
      [
        'Similar everywhere',
        addStep(
          SELECTION,
          parseStep({
            kind: 'similarColour',
            id: 'wall-between',
            at: [740, 20],
            tolerance: 28,
            patch: 5,
            contiguous: false,
          }),
        ),
      ],
      [
        'Rectangle',
        addStep(
          SELECTION,
          parseStep({
            kind: 'rectangle',
            id: 'face',
            op: 'subtract',
            x: 700,
            y: 250,
            width: 380,
            height: 330,
            cornerRadius: 120,
          }),
        ),
      ],
      ['The background was picked', addStep(SELECTION, parseStep({ kind: 'invert', id: 'turn' }))],
      ['Make mask', makeMask('otter')],
      ['Solve the edge', addStep({ kind: 'mask', layer: 'otter' }, parseStep({ kind: 'edge', id: 'wool', reach: 14 }))],
      ['Add Lantern quay', addPicture(quay, 'quay', 'otter')],
      ['Move Otter puppet', placeLayer('otter', [0.72, 0, 0, 0.72, 300, 336])],
    ],
    'programme-page.webp',
  )
  const skies = projectOf('Skies and stage for the webshop', quay, 'quay')
  await seed(
    '00000000-0000-4000-8000-00000000c000',
    skies,
    [
      ['Add Puppet stage', addPicture(stage, 'stage', null)],
      ['Hide Puppet stage', changeLayer('stage', { visible: false })],
      ['Add Morning sky', addPicture(morning, 'morning', null)],
      ['Hide Morning sky', changeLayer('morning', { visible: false })],
      ['Add Amber sky', addPicture(amber, 'amber', null)],
      ['Hide Amber sky', changeLayer('amber', { visible: false })],
      ['Choose Lantern quay', activateLayer('quay')],
    ],
    'skies-and-stage.webp',
  )
  const poster = projectOf('Autumn tour poster', otterLarge, 'otter')
  await seed('00000000-0000-4000-8000-00000000a000', poster, [], 'autumn-tour-poster.webp')
}

/** Pictures that come with the application, into a part of the library that is still empty. */
async function fillLibrary(kind: LibraryKind, folder: string): Promise<void> {
  if ((await listLibrary(kind)).length) return
  const list = JSON.parse(await readFile(join(root, folder, 'pictures.json'), 'utf8')) as {
    file: string
    name: string
    group?: string
  }[]
  for (const { file, name, group } of list) {
    const { asset } = await store(`${folder}/${file}`, name)
    await putInLibrary({ kind, asset, name, group })
  }
}

async function main(): Promise<void> {
  await migrate(database(), { migrationsFolder: join(root, 'src/server/database/migrations') })
  await prepareQueues()
  await fillLibrary('mask', 'masks')
  await fillLibrary('sky', 'skies')
  await fillLibrary('backdrop', 'backdrops')
  const [{ count }] = await database()
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(project)
  if (count === 0 && process.env.WILY_SEED !== 'off') {
    console.log('Filling the empty database with the demo ...')
    await seedDemo()
  }
  await (await boss()).stop({ graceful: false })
  await closeDatabase()
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
})
