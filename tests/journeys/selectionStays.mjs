/** What is selected stays selected when layers change around it; a step says when its picture has changed, and looks again when asked. The pixel under a resting pointer is read anew after a fill. A mask's share counts its inversion. */
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  addOnTop,
  at,
  beginWith,
  check,
  chooseFinder,
  click,
  composite,
  menuPath,
  near,
  pixelAt,
  pixels,
  same,
  saved,
  selectedShare,
  shareAfter,
  stage,
  workOnMask,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
const rest = async (page) => {
  await page.waitForTimeout(400)
  await page.waitForSelector('[data-selected]:not([aria-busy=true])')
  return selectedShare(page)
}

export async function selectionStays(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    await beginWith(page, application, quay)
    await addOnTop(page, otter)
    await stage(page, 'Select')
    await chooseFinder(page, 'Similar')
    await click(page, 120, 320)
    const picked = await shareAfter(page, 0)
    check((await page.locator('[data-looked]').count()) === 0, 'a fresh step looks at what is there')

    // Another layer is chosen, then hidden: the selection is the same, and its card says that the picture has changed.
    await page.locator('[data-layer="lantern quay"]').click()
    near(await rest(page), picked, 0.05, 'the share after another layer was chosen')
    await page.getByRole('button', { name: 'Hide otter puppet' }).click()
    near(await rest(page), picked, 0.05, 'the share after the picture it was made on was hidden')
    await page
      .locator('[data-step=similarColour]')
      .getByRole('button', { name: /^Similar/ })
      .click()
    await page.locator('[data-looked=otherwise]').waitFor()
    await page.getByRole('button', { name: 'Look again' }).click()
    const again = await shareAfter(page, picked)
    check(Math.abs(again - picked) > 0.1, `looking again selects something else: ${again} after ${picked}`)
    await page.keyboard.press('Control+z')
    near(await shareAfter(page, again), picked, 0.05, 'and undo brings the first picture back')
    await page.getByRole('button', { name: 'Show otter puppet' }).click()
    await page.locator('[data-looked]').waitFor({ state: 'detached' })

    // An adjustment takes the selection as its mask at once.
    await page.locator('[data-layer="otter puppet"]').click()
    await menuPath(page, 'Add a layer', 'Adjust colour', 'Invert')
    await saved(page)
    const above = await pixels(otter),
      out = await composite(page)
    same(
      pixelAt(out, 120, 320),
      pixelAt(above, 120, 320).map((v, c) => (c < 3 ? 255 - v : v)),
      1,
      'inside the selection it is inverted',
    )
    same(pixelAt(out, 900, 500), pixelAt(above, 900, 500), 1, 'outside it is not')

    // The share shown counts the mask's own inversion.
    await stage(page, 'Select')
    await workOnMask(page, 'Invert')
    const shown = await rest(page)
    near(shown, picked, 0.05, 'the mask shows what was selected')
    await page.getByRole('switch', { name: 'Inverted' }).click()
    near(await shareAfter(page, shown), 100 - picked, 0.2, 'inverted, it shows the rest')

    // The pointer rests while the picture changes under it.
    await page.mouse.move(...(await at(page, 120, 320)))
    await page.waitForFunction(() => /L\*/.test(document.querySelector('[data-pixel]').textContent))
    const read = () => page.locator('[data-pixel]').textContent()
    const before = await read()
    await page.keyboard.press('Control+z')
    await page.waitForFunction((old) => document.querySelector('[data-pixel]').textContent !== old, before)
    check((await read()) !== before, 'the pixel under the resting pointer is read anew')
    return `selected ${picked} %, after looking again ${again} %`
  } finally {
    await browser.close()
    browser.forget()
  }
}
