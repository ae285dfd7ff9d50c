/** Another sky over a photo of 24 megapixels: how long an editor waits until it is measured, until the sky is there, for the next sky, and for a tick of a slider. Printed, not asserted (machines are noisy). */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { beginWith, skiesRanked, stage } from './hands.mjs'
import { markAfter, now } from './waits.mjs'

export async function largeSky(application) {
  const browser = await openBrowser(),
    { page } = browser,
    folder = mkdtempSync(join(tmpdir(), 'wily-sky-'))
  const said = []
  try {
    const quay = join(folder, 'lantern-quay.jpg')
    await sharp(join(root, 'demo/pictures/lantern-quay.jpg')).resize(6000, 4000).jpeg({ quality: 92 }).toFile(quay)
    await beginWith(page, application, quay)
    await page.waitForTimeout(3000)
    const complete = () => page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
    let began = await now(page)
    await stage(page, 'Match')
    await page.getByRole('region', { name: 'Measured in this photo' }).getByText('levels').waitFor({ timeout: 120_000 })
    said.push(`measured after ${((await now(page)) - began).toFixed(0)} ms`)
    const cards = page.getByRole('listbox', { name: /^Skies/ }).getByRole('option', { name: /fits \d+ of 100/ })
    await skiesRanked(page)
    await page.waitForTimeout(1500)
    began = await now(page)
    await cards.nth(3).click()
    await page.getByRole('region', { name: 'Light on the land' }).waitFor({ timeout: 120_000 })
    await markAfter(page, 'wily:picture', began)
    await complete()
    said.push(`sky there after ${((await now(page)) - began).toFixed(0)} ms`)
    await page.waitForTimeout(2500)
    const steps = []
    await page.locator('[data-canvas]').focus()
    for (let i = 0; i < 5; i++) {
      began = await now(page)
      await page.keyboard.press('ArrowRight')
      steps.push(await markAfter(page, 'wily:picture', began))
      await page.waitForTimeout(2000)
    }
    steps.sort((a, b) => a - b)
    said.push(`next sky: median ${steps[2].toFixed(0)} ms, slowest ${steps[4].toFixed(0)} ms`)
    const thumb = await page.getByRole('slider', { name: 'Tone', exact: true }).boundingBox(),
      [x, y] = [thumb.x + thumb.width / 2, thumb.y + thumb.height / 2],
      ticks = []
    await page.mouse.move(x, y)
    await page.mouse.down()
    for (let i = 1; i <= 8; i++) {
      await page.waitForTimeout(250)
      began = await now(page)
      await page.mouse.move(x - 2 * i, y)
      ticks.push(await markAfter(page, 'wily:picture', began))
    }
    await page.mouse.up()
    ticks.sort((a, b) => a - b)
    said.push(`slider tick: median ${ticks[4].toFixed(0)} ms, slowest ${ticks[7].toFixed(0)} ms`)
    return said.join('; ')
  } finally {
    await browser.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
