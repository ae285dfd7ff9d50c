/** After many random edits of made-up projects, two by two, the canvas at 1:1 is the export, pixel for pixel; and so is the middle of every demo project. */
import sharp from 'sharp'
import { scriptForPages } from '../madeUp/bundled.mjs'
import { makeProject, pictureLayer, recordsWith, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, exportedBy, openProject, saved } from './hands.mjs'

const WIDTH = 300,
  HEIGHT = 210
const EDITS = Number(process.env.WILY_EDITS ?? 100),
  EDITS_A_PROJECT = 25
/** WILY_SEED_OF_EDITS draws others. */
const SEED = Number(process.env.WILY_SEED_OF_EDITS ?? 20_261)

/** Blobs before a wall, with grain; where `soft`, its alpha falls off to nothing. */
function drawn(width, height, seed, soft) {
  const data = Buffer.alloc(width * height * 4)
  let noise = seed * 7919
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      noise = (Math.imul(noise, 1103515245) + 12345) >>> 0
      const grain = (noise >>> 24) / 16 - 8
      const blob = Math.hypot(x - width * 0.35, y - height * 0.55) < height * 0.28
      const bar = Math.abs(x - width * 0.72 + y * 0.2) < 9
      const [r, g, b] = blob ? [205, 96 + seed * 20, 60] : bar ? [235, 230, 205] : [60 + seed * 25, 90 + y * 0.4, 150]
      data[i] = Math.max(0, Math.min(255, r + grain))
      data[i + 1] = Math.max(0, Math.min(255, g + grain))
      data[i + 2] = Math.max(0, Math.min(255, b - grain))
      data[i + 3] = soft
        ? Math.max(0, Math.min(255, Math.round(300 - Math.hypot(x - width / 2, y - height / 2) * 2.2)))
        : 255
    }
  return sharp(data, { raw: { width, height, channels: 4 } })
}

async function exportOf(application, project, head) {
  const file = await exportedBy(application, {
    project,
    head,
    what: 'composite',
    format: 'png',
    quality: 100,
    background: '#ffffff',
  })
  const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { data, width: info.width, height: info.height }
}

/** What is on the screen once nothing is being made any more: the canvas element's own pixels, from the window's corner. @param part of the picture; all of it where it is left out */
async function onScreen(page, { width, height }, part = { x: 0, y: 0 }) {
  await page.waitForFunction(
    () => !document.querySelector('[data-making]') && document.querySelector('[data-surface=picture]').dataset.final,
    undefined,
    { timeout: 120_000 },
  )
  const [left, top, scale] = (await page.locator('svg[data-view]').getAttribute('data-view')).split(' ').map(Number)
  check(scale === 1, `the picture is shown at ${scale}, not 1:1`)
  const x = Math.round(part.x - left),
    y = Math.round(part.y - top)
  const text = await page.evaluate(
    ([x, y, width, height]) => {
      const canvas = document.querySelector('[data-surface=picture]')
      const { data } = canvas.getContext('2d').getImageData(x, y, width, height)
      let out = ''
      for (let i = 0; i < data.length; i += 32768) out += String.fromCharCode(...data.subarray(i, i + 32768))
      return btoa(out)
    },
    [x, y, width, height],
  )
  return { data: Buffer.from(text, 'base64'), x, y }
}

/** The greatest difference, where the export is laid over the checks of the canvas, and how many pixels differ by more than a level. */
function difference(screen, file) {
  let most = 0,
    count = 0,
    where = null
  for (let v = 0, i = 0; v < file.height; v++)
    for (let u = 0; u < file.width; u++, i += 4) {
      const check = (((u + screen.x) >> 3) & 1) === (((v + screen.y) >> 3) & 1) ? 255 : 0xcf
      let worst = 0
      for (let c = 0; c < 3; c++) {
        const wanted = (file.data[i + c] * file.data[i + 3] + check * (255 - file.data[i + 3])) / 255
        worst = Math.max(worst, Math.abs(screen.data[i + c] - wanted))
      }
      if (worst > 1.51) {
        // a level, and the canvas's own rounding of what shows through
        count++
        where ??= [u, v]
      }
      most = Math.max(most, worst)
    }
  return { most, count, where }
}

/** The middle of a project as it is shown at 1:1 and as it is exported. */
async function demo(application, page, id) {
  await openProject(page, `${application.url}/project/${id}`)
  await page.evaluate(() => globalThis.wilyScissor.stage('compose'))
  await page.locator('[data-canvas]').focus()
  const asked = await page.evaluate(() => performance.now())
  await page.keyboard.press('Shift+0')
  // Until all of it is there, larger tiles stand in.
  await page.waitForFunction((since) => performance.getEntriesByName('wily:picture').at(-1)?.startTime > since, asked, {
    timeout: 60_000,
  })
  const { head, size } = await page.evaluate(() => {
    const { window, canvas } = globalThis.wilyScissor.records()
    return { head: globalThis.wilyScissor.head(), size: window ?? canvas }
  })
  const part = { x: size.width / 2 - 250, y: size.height / 2 - 200 },
    screen = await onScreen(page, { width: 500, height: 400 }, part),
    whole = await exportOf(application, id, head)
  const data = await sharp(whole.data, { raw: { width: whole.width, height: whole.height, channels: 4 } })
    .extract({ left: part.x, top: part.y, width: 500, height: 400 })
    .raw()
    .toBuffer()
  const { most, count } = difference(screen, { data, width: 500, height: 400 })
  check(count === 0, `demo ${id}: ${count} px differ, by up to ${most.toFixed(1)} levels`)
}

export async function canvasIsExport(application) {
  const browser = await openBrowser()
  const { page } = browser
  const done = new Map()
  let compared = 0
  try {
    await browser.context.addInitScript({ content: await scriptForPages() })
    const pictures = []
    for (const [name, width, height, soft, kind] of [
      ['wall', WIDTH, HEIGHT, false, 'jpeg'],
      ['soft', WIDTH, HEIGHT, true, 'png'],
      ['large', 520, 390, false, 'jpeg'],
      ['feather', 180, 240, true, 'webp'],
    ]) {
      const file = await drawn(width, height, pictures.length + 1, soft)
        [kind](kind === 'png' ? {} : { quality: 92 })
        .toBuffer()
      pictures.push({ asset: await storePicture(application, file), width, height, name })
    }
    for (const letter of ['a', 'b', 'c']) await demo(application, page, `00000000-0000-4000-8000-00000000${letter}000`)
    for (let edit = 0, id; edit < EDITS; edit++) {
      const seed = SEED + edit
      if (edit % EDITS_A_PROJECT === 0) {
        const [first] = pictures
        id = await makeProject(
          application,
          recordsWith([pictureLayer('first', first.asset, first)], { width: WIDTH, height: HEIGHT }),
        )
        await openProject(page, `${application.url}/project/${id}`)
        await page.evaluate(() => globalThis.wilyScissor.stage('compose'))
      }
      const what = await page.evaluate(([seed, pictures]) => globalThis.madeUp.edit(seed, pictures), [seed, pictures])
      const label = what.split(/[,:]/)[0]
      done.set(label, (done.get(label) ?? 0) + 1)
      if (edit % 2 === 0) continue // what two edits make together shows what each made
      const { head, size } = await page.evaluate(() => {
        const { window, canvas } = globalThis.wilyScissor.records()
        return { head: globalThis.wilyScissor.head(), size: window ?? canvas }
      })
      await saved(page)
      const file = await exportOf(application, id, head)
      const screen = await onScreen(page, size)
      const { most, count, where } = difference(screen, file)
      check(
        count === 0,
        `edit ${edit} (seed ${seed}: ${what}) of ${id}: ${count} px differ, by up to ${most.toFixed(1)} levels, first at ${where}; layers: ${await page.evaluate(() => JSON.stringify(globalThis.wilyScissor.records().layers.map((l) => [l.id, l.kind, l.visible, l.opacity, l.blend, l.clipped, l.parent, l.mask && [l.mask.invert, l.mask.fringe, l.mask.recipe.steps.map((s) => s.kind)]])))}`,
      )
      compared++
    }
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `${compared} edits compared: ${[...done].map(([label, count]) => `${label} ${count}`).join(', ')}`
  } finally {
    await browser.close()
    browser.forget()
  }
}
