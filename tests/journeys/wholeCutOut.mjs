/** A whole cut-out, from the shelf to the file: by keyboard alone, then by fingers alone. */
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { at, check, overlap, pictureComplete, pixels, shareAfter } from './hands.mjs'

const TRUTH = join(root, 'tests/fixtures/otter-puppet-matte.png')
/** A third as wide and high: what is asked here does not hang on the size. */
const SCALE = 3

/** What came out against what is so, and what it shows of the wall. */
async function compared(path) {
  const cut = await pixels(path),
    alpha = Uint8Array.from({ length: cut.width * cut.height }, (_, i) => cut.data[4 * i + 3]),
    truth = await sharp(TRUTH).resize(cut.width, cut.height, { fit: 'fill' }).extractChannel(0).raw().toBuffer()
  return overlap(alpha, truth)
}

async function byKeys(application, photo) {
  const browser = await openBrowser()
  const { page } = browser
  const press = async (...keys) => {
    for (const key of keys) await page.keyboard.press(key)
  }
  /** Tab, and nothing else, until it is reached. */
  const tabTo = async (role, name) => {
    const wanted = page.getByRole(role, { name }).first()
    await wanted.waitFor()
    for (let i = 0; i < 150; i++) {
      if (await wanted.evaluate((element) => element === document.activeElement)) return i
      await press('Tab')
    }
    throw new Error(`Tab does not come to ${role} ${name}`)
  }
  try {
    await page.goto(application.url)
    const choosing = page.waitForEvent('filechooser')
    await tabTo('button', 'Choose a photo …')
    await press('Enter')
    await (await choosing).setFiles(photo)
    await page.waitForURL('**/project/*')
    await pictureComplete(page)

    // The fifth group of tools by its key, to Subject by arrow keys.
    await tabTo('button', 'Similar')
    await press('End', 'ArrowUp', 'ArrowRight')
    const tool = await page.evaluate(() => document.activeElement.textContent)
    check(tool === 'Subject', `from Sky up and right lies Subject, not ${tool}`)
    await press('Enter')
    await tabTo('application', /^The picture/)
    await press('Enter')
    const share = await shareAfter(page, 0)
    check(share > 20 && share < 70, `the subject in the middle was found: ${share} %`)
    await press('m', 'Shift+3')
    await tabTo('button', 'Solve the edge')
    await press('Enter')
    await page.waitForSelector('[data-step="edge"]')
    await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
    await press('Shift+6')
    await tabTo('radio', /^The composite/)
    for (let i = 0; i < 8; i++) {
      if (await page.evaluate(() => /cut out/i.test(document.activeElement.textContent))) break
      await press('ArrowDown')
    }
    if ((await page.evaluate(() => document.activeElement.getAttribute('aria-checked'))) !== 'true') await press(' ')
    const download = page.waitForEvent('download', { timeout: 60_000 })
    await tabTo('button', 'Export')
    // The stage's own button comes before the one that exports.
    if (await page.evaluate(() => document.activeElement.closest('nav') !== null)) {
      await press('Tab')
      for (let i = 0; i < 150; i++) {
        if (
          await page.evaluate(
            () => document.activeElement.textContent === 'Export' && document.activeElement.closest('nav') === null,
          )
        )
          break
        await press('Tab')
      }
    }
    await press('Enter')
    const like = await compared(await (await download).path())
    check(like > 0.93, `cut out by keyboard alone: ${like.toFixed(3)}`)
    check(!browser.troubles.length, browser.troubles.join('\n'))
    return like
  } finally {
    await browser.close()
  }
}

async function byFingers(application, photo) {
  const browser = await openBrowser(undefined, { hasTouch: true })
  const { page } = browser
  const tap = (role, name) =>
    page
      .getByRole(role, { name, exact: typeof name === 'string' })
      .first()
      .tap()
  try {
    await page.goto(application.url)
    const choosing = page.waitForEvent('filechooser')
    await tap('button', 'Choose a photo …')
    await (await choosing).setFiles(photo)
    await page.waitForURL('**/project/*')
    await pictureComplete(page)
    await tap('button', 'Subject')
    await page.touchscreen.tap(...(await at(page, 900 / SCALE, 500 / SCALE)))
    const share = await shareAfter(page, 0)
    check(share > 20 && share < 70, `the subject under the finger was found: ${share} %`)
    await tap('button', /^Make mask/)
    await page.locator('[aria-label=Stages]').getByRole('button', { name: 'Edge' }).tap()
    await tap('button', 'Solve the edge')
    await page.waitForSelector('[data-step="edge"]')
    await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
    await page.locator('[aria-label=Stages]').getByRole('button', { name: 'Export' }).tap()
    await tap('radio', /cut out/i)
    const download = page.waitForEvent('download', { timeout: 60_000 })
    await page.locator('[aria-label=Stage]').getByRole('button', { name: 'Export', exact: true }).tap()
    const like = await compared(await (await download).path())
    check(like > 0.93, `cut out by fingers alone: ${like.toFixed(3)}`)
    check(!browser.troubles.length, browser.troubles.join('\n'))
    return like
  } finally {
    await browser.close()
  }
}

export async function wholeCutOut(application) {
  const photo = join(mkdtempSync(join(tmpdir(), 'wily-whole-')), 'otter.jpg')
  await sharp(join(root, 'demo/pictures/otter-puppet.jpg'))
    .resize(1800 / SCALE)
    .jpeg({ quality: 95 })
    .toFile(photo)
  const keys = await byKeys(application, photo),
    fingers = await byFingers(application, photo)
  return `overlap with the truth: by keyboard ${keys.toFixed(3)}, by fingers ${fingers.toFixed(3)}`
}
