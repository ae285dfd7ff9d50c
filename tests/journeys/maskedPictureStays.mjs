/** A masked picture goes on showing when something is laid over it, and when its mask is another layer's, inverted: on the screen, not only in the export. */
import { join } from 'node:path'
import sharp from 'sharp'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { addOnTop, at, beginWith, check, chooseFinder, menuPath, saved, stage, workOnMask } from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
/** Long enough for fringe colours to be taken out, and for an older answer to come late. */
const REST_MS = 4000

/** The mean colour of a few px of the screen around a canvas place. */
async function seen(page, x, y) {
  const [left, top] = await at(page, x, y)
  const shot = await page.screenshot({ clip: { x: left - 8, y: top - 8, width: 16, height: 16 } })
  const { channels } = await sharp(shot).stats()
  return channels.slice(0, 3).map(({ mean }) => mean)
}
const apart = (a, b) => Math.max(...a.map((v, c) => Math.abs(v - b[c])))

export async function maskedPictureStays(application) {
  const browser = await openBrowser()
  const { page } = browser
  const places = [
    [880, 420],
    [900, 800],
  ]
  const stays = async (before, what) => {
    await page.waitForTimeout(REST_MS)
    const after = []
    for (const [x, y] of places) after.push(await seen(page, x, y))
    places.forEach((place, i) =>
      check(
        apart(before[i], after[i]) < 6,
        `${what}: at ${place} ${before[i].map(Math.round)} became ${after[i].map(Math.round)}`,
      ),
    )
  }
  try {
    await beginWith(page, application, otter)
    await stage(page, 'Compose')
    const before = []
    for (const [x, y] of places) before.push(await seen(page, x, y))
    await stage(page, 'Select')
    await chooseFinder(page, 'Subject')
    await page.getByRole('button', { name: 'Find the subject' }).click()
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent.includes('%'))
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await stage(page, 'Compose')
    await menuPath(page, 'Add a layer', 'Adjust light', 'Exposure')
    await saved(page)
    await stays(before, 'an adjustment over a masked picture')
    await page.keyboard.press('Control+z')
    await stays(before, 'the adjustment undone')

    // A picture on top whose mask is the one below, inverted: it shows all around.
    await addOnTop(page, quay)
    await menuPath(page, 'More for this layer', 'Mask', 'From what another layer covers', 'otter puppet')
    await workOnMask(page, 'lantern quay')
    await page.getByRole('switch', { name: 'Inverted' }).click()
    await saved(page)
    await stays(before, 'under a picture whose mask is what the masked one covers, inverted')
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
