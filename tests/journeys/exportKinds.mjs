/** Every kind of export, read back by something else than wrote it; projects and layers out and in again. */
import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DOMParser } from '@xmldom/xmldom'
import { unzipSync, zipSync } from 'fflate'
import sharp from 'sharp'
import { makeProject, post, renaming } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, exported, exportedBy, near, openProject, pixels, stage, wily } from './hands.mjs'

const DEMO = '00000000-0000-4000-8000-00000000b000'
const MATTE = 'tests/fixtures/otter-puppet-matte.png'
const folder = mkdtempSync(join(tmpdir(), 'wily-exports-'))

const api = (application, path, init) => fetch(`${application.url}/api/${path}`, init)

/** The greatest difference of a channel, and the share of pixels that differ by more than one level. */
function difference(a, b) {
  let most = 0,
    off = 0
  for (let i = 0; i < a.length; i++) {
    const d = Math.abs(a[i] - b[i])
    most = Math.max(most, d)
    if (d > 1) off++
  }
  return { most, off: off / a.length }
}

async function importing(application, bytes, name) {
  const answer = await api(application, 'projects/import', {
    method: 'POST',
    body: bytes,
    headers: { 'x-file-name': encodeURIComponent(name) },
  })
  return { status: answer.status, ...(await answer.json()) }
}
/** A project's composite by way of an export of its own. */
async function composite(application, id) {
  const { head } = await (await api(application, `projects/${id}?acts=1`)).json()
  const request = { project: id, head, what: 'composite', format: 'png', quality: 90, background: '#ffffff' }
  const file = join(folder, `${id}.png`)
  writeFileSync(file, await exportedBy(application, request))
  return pixels(file)
}

/** The demo's composite with a history of its own, and without the step that takes long. */
async function project(application) {
  const { records } = await (await api(application, `projects/${DEMO}`)).json(),
    [layer] = records.layers.filter(({ mask }) => mask)
  layer.mask.recipe.steps = layer.mask.recipe.steps.filter(({ kind }) => kind !== 'edge')
  const id = await makeProject(application, records)
  const acts = [renaming('Once', records.name, null)]
  acts.push(renaming('Twice', 'Once', acts[0].id))
  await post(application, `projects/${id}/acts`, { acts, head: acts[1].id, revision: 0, sending: randomUUID() })
  return id
}

async function journey(application, browser) {
  const { page } = browser,
    said = [],
    PROJECT = await project(application)
  await openProject(page, `${application.url}/project/${PROJECT}`)
  await page.getByRole('button', { name: /^Otter puppet/ }).first().click().catch(() => {}) // prettier-ignore
  const png = await exported(page, /The composite/, 'PNG'),
    whole = await pixels(png.path)

  // Sixteen bits hold the same picture, and more of it.
  await page
    .getByRole('radiogroup', { name: 'What goes out' })
    .getByRole('radio', { name: /The composite/ })
    .click()
  await page.locator('[aria-label=Stage]').getByLabel('Format').selectOption({ label: 'TIFF' })
  await page.getByLabel('Bits a channel').getByRole('radio', { name: '16' }).click()
  const tiff = await exported(page, /The composite/, 'TIFF')
  check((await sharp(tiff.path).metadata()).depth === 'ushort', 'the TIFF has 16 bits a channel')
  check(difference((await pixels(tiff.path)).data, whole.data).most <= 1, 'and shows the same picture')
  await page.getByLabel('Bits a channel').getByRole('radio', { name: '8' }).click()
  const avif = await exported(page, /The composite/, 'AVIF')
  check((await sharp(avif.path).metadata()).format === 'heif', 'an AVIF file')

  // The last choices stand after a reload.
  await page.reload()
  await page.waitForSelector('svg[data-view]')
  await stage(page, 'Export')
  const format = page.locator('[aria-label=Stage]').getByLabel('Format')
  check(
    (await format.evaluate((select) => select.selectedOptions[0].label)) === 'AVIF',
    'the last format is remembered',
  )

  // The matte and its outline: against the truth, and against each other.
  const matte = await exported(page, /^Matte/),
    grey = await sharp(matte.path).extractChannel(0).raw().toBuffer({ resolveWithObject: true })
  check(grey.info.width === 1800 && grey.info.height === 1200, 'the matte has the canvas’s size')
  const outline = await exported(page, /^Outline/),
    svg = new DOMParser().parseFromString(readFileSync(outline.path, 'utf8'), 'image/svg+xml')
  check(svg.documentElement.getAttribute('viewBox') === '0 0 1800 1200', 'the outline has the canvas’s coordinates')
  const drawn = await sharp(outline.path, { unlimited: true }).extractChannel(3).raw().toBuffer()
  let both = 0,
    either = 0
  for (let i = 0; i < drawn.length; i++) {
    const a = drawn[i] > 127,
      b = grey.data[i] > 127
    if (a && b) both++
    if (a || b) either++
  }
  // Wool, too: hairs thinner than a pixel.
  check(both / either > 0.999, `the outline follows the matte: ${both / either}`)
  const recipe = JSON.parse(readFileSync((await exported(page, /as a recipe/)).path, 'utf8'))
  check(recipe.version === 1 && recipe.steps.length > 3, 'the steps are a recipe')

  // The command line makes the same of the recipe.
  const recipeFile = join(folder, 'recipe.json'),
    again = join(folder, 'again.png')
  writeFileSync(recipeFile, JSON.stringify(recipe))
  await wily('select', 'demo/pictures/otter-puppet.jpg', '--recipe', recipeFile, '--out', again)
  const mine = await sharp(again).extractChannel(0).raw().toBuffer(),
    truth = await sharp(MATTE).extractChannel(0).raw().toBuffer()
  let error = 0
  for (let i = 0; i < mine.length; i++) error += Math.abs(mine[i] - truth[i])
  near(error / mine.length, 0, 6, 'the recipe on the command line, mean difference to the truth')

  // OpenRaster, looked at by an independent zip and XML reader.
  const ora = await exported(page, /All layers/),
    bytes = readFileSync(ora.path)
  check(ora.name.endsWith('.ora'), ora.name)
  check(bytes.toString('latin1', 30, 38) === 'mimetype' && bytes.readUInt16LE(8) === 0, 'mimetype comes first, stored')
  const files = unzipSync(new Uint8Array(bytes)),
    text = (name) => Buffer.from(files[name]).toString('utf8')
  check(text('mimetype') === 'image/openraster', 'and says what it is')
  const stack = new DOMParser().parseFromString(text('stack.xml'), 'text/xml'),
    layers = [...stack.getElementsByTagName('layer')]
  check(stack.documentElement.getAttribute('w') === '1800', 'stack.xml has the size')
  check(layers.map((layer) => layer.getAttribute('name')).join() === 'Otter puppet,Lantern quay', 'the uppermost first')
  for (const layer of layers) check(files[layer.getAttribute('src')], `${layer.getAttribute('src')} is in it`)
  const merged = await sharp(Buffer.from(files['mergedimage.png'])).ensureAlpha().raw().toBuffer()
  check(difference(merged, whole.data).most === 0, 'the merged picture is the composite')
  const small = await sharp(Buffer.from(files['Thumbnails/thumbnail.png'])).metadata()
  check(Math.max(small.width, small.height) <= 256, 'the thumbnail is small')

  // Read back: the same picture from layers and groups of its own.
  const taken = await importing(application, bytes, 'page.ora')
  check(taken.status === 200, taken.problem)
  const back = difference((await composite(application, taken.id)).data, whole.data)
  said.push(`OpenRaster out and in: ${back.most} levels at most, ${(100 * back.off).toFixed(3)} % off by more than one`)
  check(back.off < 0.001, `OpenRaster out and in: ${JSON.stringify(back)}`)

  // A project file: the same pixels, history and all.
  const file = await exported(page, /whole project/),
    packed = readFileSync(file.path)
  const restored = await importing(application, packed, file.name)
  check(restored.status === 200 && restored.id !== PROJECT, restored.problem)
  const pictures = difference((await composite(application, restored.id)).data, whole.data)
  check(pictures.most === 0, `a project out and in: ${JSON.stringify(pictures)}`)
  const [before, after] = await Promise.all(
    [PROJECT, restored.id].map(async (id) => (await api(application, `projects/${id}`)).json()),
  )
  check(
    before.acts.length === after.acts.length && before.acts.every(({ label }, i) => label === after.acts[i].label),
    'with its history',
  )

  // What is wrong is said in a sentence, and nothing stays of it.
  const count = async () => (await (await api(application, 'projects')).json()).projects.length,
    earlier = await count()
  const entries = unzipSync(new Uint8Array(packed)),
    about = JSON.parse(Buffer.from(entries['project.json']).toString('utf8')),
    json = (value) => new Uint8Array(Buffer.from(JSON.stringify(value)))
  const wrong = [
    [zipSync({ ...entries, 'project.json': json({ ...about, version: 2 }) }), /newer version/],
    [zipSync({ ...entries, '../outside': json({}) }), /outside itself/],
    [zipSync({ hello: json({}) }), /neither a project file nor an OpenRaster file/],
    [packed.subarray(0, packed.length - 200), /damaged/],
    [Buffer.from('hello'), /damaged/],
    [zipSync({ ...entries, 'acts.ndjson': json({ id: 'x', parent: 'missing' }) }), /builds on one that is missing/],
    [zipSync({ mimetype: new Uint8Array(Buffer.from('image/openraster')), 'stack.xml': json({}) }), /stack\.xml/],
  ]
  for (const [body, sentence] of wrong) {
    const answer = await importing(application, body, 'wrong.zip')
    check(answer.status === 422 && sentence.test(answer.problem), `${sentence}: ${JSON.stringify(answer)}`)
  }
  check((await count()) === earlier, 'nothing of them stays')
  check(!browser.troubles.length, browser.troubles.join('\n'))
  return said.join('\n')
}

export async function exportKinds(application) {
  const browser = await openBrowser()
  try {
    return await journey(application, browser)
  } finally {
    await browser.close()
  }
}
