/** From a project's steps to many pictures: the first three looked at, all made while workers die, doubtful ones mended by hand, all fetched. */
import { randomUUID } from 'node:crypto'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { unzipSync } from 'fflate'
import sharp from 'sharp'
import { post } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, openProject, stage, wily } from './hands.mjs'

const PROJECT = '00000000-0000-4000-8000-00000000b000'
const PICTURES = 24,
  KILLS = 3

/** Pictures of one thing on a plain wall, its place and colours different in each; the wall of some is hardly another colour. */
async function photographs(folder) {
  mkdirSync(folder)
  for (let i = 0; i < PICTURES; i++) {
    const x = 60 + ((i * 37) % 180),
      near = i % 8 === 5
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="450" height="300"><rect width="450" height="300" fill="#a8a4c0"/><circle cx="${x + 60}" cy="150" r="70" fill="${near ? '#b0a6bd' : `hsl(${i * 40} 70% 40%)`}"/></svg>`
    await sharp(Buffer.from(svg))
      .jpeg({ quality: 92 })
      .toFile(join(folder, `thing ${String(i + 1).padStart(2, '0')}.jpg`))
  }
  // A broken one in the middle, one of the same name elsewhere, and what is no picture.
  writeFileSync(join(folder, 'thing 12b.jpg'), readFileSync(join(folder, 'thing 12.jpg')).subarray(0, 900))
  writeFileSync(join(folder, 'notes.txt'), 'not a picture')
}
const PLAN = {
  version: 1,
  canvas: { width: 450, height: 300 },
  steps: [
    { kind: 'similarColour', at: [12, 12], tolerance: 10, contiguous: false },
    { kind: 'invert' },
    { kind: 'feather', radius: 1 },
  ],
  output: { what: 'cutout', format: 'png', backdrop: '#20a060' },
}

async function journey(application, browser) {
  const folder = mkdtempSync(join(tmpdir(), 'wily-batch-')),
    photos = join(folder, 'photos')
  await photographs(photos)
  const { page } = browser

  // A project's own steps become a plan.
  await openProject(page, `${application.url}/project/${PROJECT}`)
  await stage(page, 'Export')
  await page.getByRole('button', { name: 'Many pictures' }).click()
  await page.waitForURL(/\/batch\//)
  const plan = page.getByLabel('Plan')
  await plan.getByText('Edge', { exact: true }).waitFor()
  check((await plan.getByRole('listitem').count()) === 6, 'the steps of the mask are taken along')

  // Another from a file: pictures by a folder.
  await page.goto(`${application.url}/batches`)
  writeFileSync(join(folder, 'Walls.json'), JSON.stringify(PLAN))
  const choosing = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'A recipe file' }).click()
  await (await choosing).setFiles(join(folder, 'Walls.json'))
  await page.waitForURL(/\/batch\//)
  const id = page.url().split('/').at(-1)
  const files = readdirSync(photos).map((name) => join(photos, name))
  const adding = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Add pictures' }).click()
  await (await adding).setFiles(files)
  const refused = page.getByRole('list', { name: 'Refused' })
  await refused.getByText('thing 12b').waitFor()
  await refused.getByText('notes.txt').waitFor()
  await page.getByText(`${PICTURES} pictures`, { exact: true }).waitFor({ timeout: 60_000 })

  await page.getByRole('button', { name: 'Try the first three' }).click()
  const first = page.getByLabel('First results').locator('img')
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="First results"] img').length === 3, null, { timeout: 60_000 }) // prettier-ignore
  check((await first.count()) === 3, 'the first three are shown')

  // Workers die, the database too; it goes on by itself.
  await page.getByRole('button', { name: `Start the other ${PICTURES - 3}` }).click()
  const done = async () => (await (await fetch(`${application.url}/api/batches/${id}`)).json()).counts.done
  // One that is killed between taking a job and beginning it leaves this behind.
  application.sql(
    "update jobs.job set state = 'active', started_on = now() where id = (select id from jobs.job where name = 'batch' and state = 'created' order by priority limit 1)",
  )
  const until = Date.now() + 120_000
  let killed = 0
  for (let last = 3; killed < KILLS && last < PICTURES - 2; await wait(50)) {
    const now = await done()
    check(Date.now() < until, `after two minutes ${now} of ${PICTURES} are made`)
    if (now > last + 1) {
      process.kill(application.workerProcess(), 'SIGKILL')
      killed++
      last = now
    }
  }
  application.killDatabase()
  await wait(1500)
  application.restartDatabase()
  await page.getByText(`All ${PICTURES} made`).waitFor({ timeout: 120_000 })
  const unmade = application.sql(`select count(*) from batch_picture where batch = '${id}' and state <> 'done'`)
  check(unmade === '0', `every picture is made: ${unmade} are not`)

  // The doubtful ones come first, and are mended by hand.
  await page.getByLabel('Order', { exact: true }).getByRole('radio', { name: 'doubt' }).click()
  const uppermost = page.locator('[data-picture]').first()
  await page.waitForFunction(() => /thing (06|14|22)/.test(document.querySelector('[data-picture] b')?.textContent))
  const number = Number(await uppermost.getAttribute('data-picture')),
    name = await uppermost.locator('b').textContent(),
    left = 50 + (((Number(name.slice(6)) - 1) * 37) % 180)
  await uppermost.getByRole('button', { name: /^Mend/ }).click()
  await page.waitForURL(/\/project\//)
  await page.waitForSelector('svg[data-view]')
  const project = page.url().split('/').at(-1)
  const open = await (await fetch(`${application.url}/api/projects/${project}`)).json(),
    masked = open.records.layers.find(({ kind }) => kind === 'picture')
  check(masked.mask.recipe.steps.length === 3 && open.records.layers.some(({ kind }) => kind === 'fill'), 'it opens masked, over its backdrop') // prettier-ignore
  // The mask is drawn by hand: a circle where the thing is.
  const mask = { ...masked.mask, recipe: { version: 1, steps: [{ ...CIRCLE, x: left }] } },
    change = (value) => ({ fields: { in: { layers: { entries: { in: { [masked.id]: { fields: { set: { mask: value } } } } } } } } }) // prettier-ignore
  const drawn = { id: randomUUID(), parent: open.head, label: 'Drawn by hand', forward: change(mask), inverse: change(masked.mask), at: new Date().toISOString() } // prettier-ignore
  await post(application, `projects/${project}/acts`, {
    acts: [drawn],
    head: drawn.id,
    revision: open.revision,
    sending: randomUUID(),
  })
  await page.goto(`${application.url}/batch/${id}`)
  await page.getByLabel('Order', { exact: true }).getByRole('radio', { name: 'doubt' }).click()
  await page.getByRole('button', { name: `Make ${name} again` }).click()
  const row = async () => {
    const { pictures } = await (await fetch(`${application.url}/api/batches/${id}/pictures`)).json()
    return pictures.find((each) => each.number === number)
  }
  for (let tries = 0, now = await row(); now.state !== 'done' || now.run < 2; now = await row()) {
    check(now.state !== 'failed' && tries++ < 300, `it is made again: ${now.state} ${now.problem ?? ''}`)
    await wait(200)
  }

  // All in one zip, each once; the command line makes the very same of the rest.
  const zip = unzipSync(new Uint8Array(await (await fetch(`${application.url}/api/batches/${id}/zip`)).arrayBuffer())),
    names = Object.keys(zip)
  check(names.length === PICTURES && new Set(names).size === PICTURES, `each picture once: ${names.length}`)
  // The same into a folder of the server.
  const { folder: there, after } = await (
    await fetch(`${application.url}/api/batches/${id}/folder`, { method: 'POST' })
  ).json()
  check(after === null && readdirSync(there).length === PICTURES, `${readdirSync(there).length} files in the folder`)
  for (const file of names)
    check(Buffer.from(zip[file]).equals(readFileSync(join(there, file))), `${file} in the folder is that of the zip`)
  writeFileSync(join(folder, 'plan.json'), JSON.stringify(PLAN))
  let problem = ''
  try {
    await wily('batch', photos, '--recipe', join(folder, 'plan.json'), '--out', join(folder, 'out'), '--workers', '2')
  } catch (error) {
    problem = String(error.stderr)
  }
  check(/thing 12b\.jpg.*damaged/.test(problem), `the broken one is named: ${problem}`)
  const mended = `${name}.png`
  for (const name of names.filter((each) => each !== mended))
    check(
      Buffer.from(zip[name]).equals(readFileSync(join(folder, 'out', name))),
      `${name} is the same on the command line`,
    )
  const circle = await sharp(Buffer.from(zip[mended])).ensureAlpha().raw().toBuffer()
  const at = (x, y) => [...circle.subarray((y * 450 + x) * 4, (y * 450 + x) * 4 + 3)].join()
  check(at(4, 4) === '32,160,96' && at(left + 70, 150) !== '32,160,96', 'the mended one shows what was drawn')
  check(!readdirSync(join(application.data, 'batches', id)).some((name) => name.includes('part')), 'no partial file')

  // Stopped and gone.
  await fetch(`${application.url}/api/batches/${id}`, { method: 'DELETE' })
  check((await fetch(`${application.url}/api/batches/${id}`)).status === 404, 'it is gone')
  check(!readdirSync(join(application.data, 'batches')).includes(id), 'and its files')
  check(!browser.troubles.length, browser.troubles.join('\n'))
  return `${PICTURES} pictures through ${killed} workers killed and a database; doubtful first: no. ${number}`
}
const CIRCLE = { kind: 'ellipse', id: 'hand', op: 'add', y: 80, width: 140, height: 140, rotation: 0, antialias: true, feather: 0, grow: 0, invert: false, hidden: false } // prettier-ignore

export async function batches(application) {
  const browser = await openBrowser()
  try {
    return await journey(application, browser)
  } finally {
    await browser.close()
  }
}
