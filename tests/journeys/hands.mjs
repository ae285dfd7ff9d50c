/** What a person's hands do on the workbench, with real pointer events, and what their eyes check. */
import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { promisify } from 'node:util'
import sharp from 'sharp'
import { post } from '../madeUp/project.mjs'
import { root } from './application.mjs'

/** Longer than anything takes on a slow machine. */
const WAIT_MS = 180_000

export function check(condition, sentence) {
  if (!condition) throw new Error(sentence)
}
/** Asks until it is so: what a hand waits for with its eyes, on a slow machine, too. */
export async function until(so, sentence, { within = 30_000 } = {}) {
  for (const end = Date.now() + within; !(await so()); await new Promise((resolve) => setTimeout(resolve, 50)))
    check(Date.now() < end, `${sentence}: not after ${within / 1000} s`)
}
/** The command line. No step of a journey may wait for good. */
export const wily = (...given) => promisify(execFile)(join(root, 'bin/wily'), given, { cwd: root, timeout: WAIT_MS })
export function near(value, wanted, within, what) {
  check(Math.abs(value - wanted) <= within, `${what}: ${value}, wanted ${wanted} ± ${within}`)
}

/** Where a canvas point lies on the screen now. */
export async function at(page, x, y) {
  const view = await page.locator('svg[data-view]').getAttribute('data-view')
  const [left, top, scale] = view.split(' ').map(Number)
  const box = await page.locator('[data-canvas]').boundingBox()
  return [box.x + (x - left) * scale, box.y + (y - top) * scale]
}

export async function click(page, x, y, keys = []) {
  for (const key of keys) await page.keyboard.down(key)
  await page.mouse.click(...(await at(page, x, y)))
  for (const key of keys) await page.keyboard.up(key)
}

/** Presses, moves in steps as a hand does, and lets go. Points on the screen. */
export async function drag(page, from, to, keys = [], steps = 12) {
  for (const key of keys) await page.keyboard.down(key)
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move(...to, { steps })
  await page.mouse.up()
  for (const key of keys) await page.keyboard.up(key)
}

/** A drag that Escape takes back, although the hand moves on before it lets go: the records stay as they are. @param records what is recorded */
export async function dragTakenBack(page, from, to, records, what) {
  const before = JSON.stringify(await records())
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move(...to, { steps: 6 })
  await page.keyboard.press('Escape')
  await page.mouse.move(to[0] + 5, to[1] + 3, { steps: 3 })
  await page.mouse.up()
  await page.waitForTimeout(300)
  check(JSON.stringify(await records()) === before, `Escape takes back ${what}`)
}

export async function openProject(page, url) {
  await page.goto(url)
  await page.waitForSelector('svg[data-view]')
  await pictureComplete(page)
}
export const pictureComplete = (page) =>
  page.waitForFunction(() => performance.getEntriesByName('wily:picture').length > 0)

export const selectedShare = async (page) => {
  const text = await page.locator('[data-selected]').textContent()
  return text.includes('%') ? parseFloat(text) : 0
}

/** Waits until the share selected has changed from `before`, and then until it rests. */
export async function shareAfter(page, before) {
  await page.waitForFunction((old) => {
    const text = document.querySelector('[data-selected]').textContent
    return (text.includes('%') ? parseFloat(text) : 0) !== old
  }, before)
  return shareAtRest(page)
}
/** Waits until nothing newer is being made and the share selected stays. */
export async function shareAtRest(page) {
  let share = null
  for (const until = Date.now() + WAIT_MS; Date.now() < until; await page.waitForTimeout(250)) {
    await page.waitForSelector('[data-selected]:not([aria-busy=true])')
    const next = await selectedShare(page)
    if (next === share) return share
    share = next
  }
  throw new Error(`the share selected never rests: ${share}`)
}

export async function typeInto(page, label, value) {
  const field = page.getByLabel(label, { exact: true }).first() // the stage's own fields come before the steps'
  await field.fill(String(value))
  await field.press('Enter')
}

export async function saved(page) {
  await page.waitForSelector('[data-saving=saved]', { timeout: 30_000 }).catch(async () => {
    throw new Error(
      `not saved after 30 s: the header says “${await page.locator('[data-saving]').textContent()}” (${await page.locator('[data-saving]').getAttribute('title')})`,
    )
  })
}

/** Drops files onto an element, as from the desktop. */
export async function drop(page, selector, files, place = { x: 0.5, y: 0.25 }) {
  const contents = files.map((file) =>
    typeof file === 'string'
      ? { name: basename(file), bytes: readFileSync(file).toString('base64') }
      : { name: file.name, bytes: file.bytes.toString('base64') },
  )
  const box = await page.locator(selector).first().boundingBox()
  const transfer = await page.evaluateHandle((list) => {
    const data = new DataTransfer()
    for (const { name, bytes } of list)
      data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], name))
    return data
  }, contents)
  const where = { clientX: box.x + box.width * place.x, clientY: box.y + box.height * place.y, dataTransfer: transfer }
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent(selector, type, where)
}

export async function exported(page, what, format) {
  await stage(page, 'Export')
  await page.getByRole('radiogroup', { name: 'What goes out' }).getByRole('radio', { name: what }).click()
  if (format) await page.locator('[aria-label=Stage]').getByLabel('Format').selectOption({ label: format })
  const download = page.waitForEvent('download', { timeout: 60_000 })
  await page.locator('[aria-label=Stage]').getByRole('button', { name: 'Export', exact: true }).click()
  const file = await download
  return { path: await file.path(), name: file.suggestedFilename() }
}

export async function grey(file) {
  const { data, info } = await sharp(file).extractChannel(0).raw().toBuffer({ resolveWithObject: true })
  return { data, ...info }
}
export async function pixels(file) {
  const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { data, width: info.width, height: info.height }
}

/** sRGB to linear light and back, 0-1. Source: IEC 61966-2-1. */
export const toLinear = (v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
export const fromLinear = (v) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)

/** Intersection over union at half coverage. */
export function overlap(a, b) {
  let both = 0,
    either = 0
  for (let i = 0; i < a.length; i++) {
    const x = a[i] > 127,
      y = b[i] > 127
    if (x && y) both++
    if (x || y) either++
  }
  return both / either
}

/** Begins a project with a photo, as a person does: drops it on the shelf. Returns the project's id. */
export async function beginWith(page, application, photo) {
  await page.goto(application.url)
  await page.waitForSelector('text=Choose a photo')
  await drop(page, 'main', [photo])
  await page.waitForURL('**/project/*')
  await page.waitForSelector('svg[data-view]')
  await pictureComplete(page)
  return page.url().split('/').pop()
}
export const workOnSelection = (page) => page.getByRole('button', { name: 'Work on the selection' }).click()
export const workOnLayer = (page, name) => page.getByRole('button', { name: `Work on ${name}`, exact: true }).click()
export const workOnMask = (page, layer) => page.getByRole('button', { name: `Mask of ${layer}`, exact: true }).click()
export const chooseFinder = (page, name) =>
  page.locator('[aria-label=Stage]').getByRole('button', { name, exact: true }).click()
export async function clearSteps(page) {
  await page.keyboard.press('Control+Shift+a')
  await page.waitForFunction(() => document.querySelector('[data-selected]').textContent === 'nothing selected')
}
/** The file of an export that was asked of the server. */
export async function exportedBy(application, request) {
  const ask = (path, init) => fetch(`${application.url}/api/exports${path}`, init)
  let job = await post(application, 'exports', request)
  for (const until = Date.now() + WAIT_MS; job.state === 'waiting' || job.state === 'running';) {
    check(Date.now() < until, `the export is ${job.state} after ${WAIT_MS / 1000} s`)
    await new Promise((resolve) => setTimeout(resolve, 25))
    job = await (await ask(`/${job.id}`)).json()
  }
  check(job.state === 'done', `the export failed: ${job.problem ?? JSON.stringify(job)}`)
  const file = Buffer.from(await (await ask(`/${job.id}/file`)).arrayBuffer())
  await ask(`/${job.id}`, { method: 'DELETE' })
  return file
}
/** The records as the server has them. */
export async function recordsOf(page, application, id) {
  await saved(page)
  return (await (await fetch(`${application.url}/api/projects/${id}`)).json()).records
}
/** The matte of the project's selection, as it is exported. */
export async function matteOf(page, application, id) {
  await saved(page)
  const { head } = await (await fetch(`${application.url}/api/projects/${id}?acts=1`)).json()
  return grey(
    await exportedBy(application, {
      project: id,
      head,
      what: 'matte',
      format: 'png',
      quality: 90,
      background: '#ffffff',
    }),
  )
}
/** The same, by the command line. */
export async function matteByCommand(page, application, id, photo) {
  const { selection } = await recordsOf(page, application, id),
    folder = mkdtempSync(join(tmpdir(), 'wily-matte-')),
    recipe = join(folder, 'recipe.json'),
    out = join(folder, 'matte.png')
  try {
    writeFileSync(recipe, JSON.stringify(selection))
    await wily('select', photo, '--recipe', recipe, '--out', out)
    return await grey(out)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
/** Opens a menu; a mask's is at the head of its values. */
export async function openMenu(page, button) {
  await page.getByRole('button', { name: button, exact: true }).click()
  if (button.startsWith('Mask of')) await page.getByRole('button', { name: 'More for this mask' }).click()
}
export async function menuOf(page, button, item) {
  await openMenu(page, button)
  await page.getByRole('menuitem', { name: item }).click()
}

/** Through menus within menus, by keyboard: pointer travel between them is the library's own business. */
export async function menuPath(page, button, ...items) {
  await openMenu(page, button)
  for (const item of items) {
    const entry = page.getByRole('menuitem', { name: item, exact: typeof item === 'string' })
    await entry.waitFor()
    await page.waitForTimeout(120)
    await entry.focus()
    await page.keyboard.press('Enter')
  }
}
export const stage = (page, name) =>
  page.locator('[aria-label=Stages]').getByRole('button', { name, exact: true }).click()
/** Adds a picture file as a layer on top. */
export async function addOnTop(page, file) {
  await page.getByRole('button', { name: 'Add a layer' }).click()
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('menuitem', { name: 'Pictures on top …' }).click()
  await (await chooser).setFiles(file)
  await page.waitForSelector(
    `[data-layer="${basename(file)
      .replace(/\.[^.]+$/, '')
      .replace(/[-_]+/g, ' ')}"]`,
  )
}
/** The composite as delivered. */
export async function composite(page) {
  const { path } = await exported(page, /The composite/, 'PNG')
  return pixels(path)
}
export const pixelAt = ({ data, width }, x, y) => [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)]
export function same(pixel, wanted, within, what) {
  for (let c = 0; c < 4; c++) near(pixel[c], wanted[c], within, `${what}, channel ${c}`)
}
/** Drags a grip over the picture to a place on the screen. */
export async function dragGrip(page, name, to, keys = []) {
  const { x, y, width, height } = await page.locator(`[data-grip="${name}"]`).boundingBox(),
    from = [x + width / 2, y + height / 2]
  const above = await page.evaluate(([u, v]) => {
    const element = document.elementFromPoint(u, v)
    return element?.closest('[data-grip]')?.dataset.grip ?? element?.outerHTML.slice(0, 200)
  }, from)
  check(above === name, `over the handle ${name} lies ${above}`)
  await drag(page, from, to, keys)
}
/** In Match: until every sky of the library has been read and ranked by how well it fits the photo. */
export const skiesRanked = (page) =>
  page.waitForFunction(
    () => {
      const cards = [...document.querySelectorAll('[role=option]')]
      return cards.length >= 12 && cards.every((card) => /fits \d+ of 100/.test(card.getAttribute('aria-label')))
    },
    null,
    { timeout: 120_000 },
  )
