/** Cutting a piece out and laying it back; merging what shows without changing it; flattening and taking it back; painting inside a selection; cropping. */
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  addOnTop,
  at,
  beginWith,
  check,
  chooseFinder,
  composite,
  drag,
  menuPath,
  pixelAt,
  pixels,
  recordsOf,
  same,
  saved,
  stage,
  typeInto,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
const worst = (a, b) => {
  let most = 0
  for (let i = 0; i < a.data.length; i++) most = Math.max(most, Math.abs(a.data[i] - b.data[i]))
  return most
}

export async function piecesAndMerges(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const photo = await pixels(otter)
    const id = await beginWith(page, application, otter)
    await chooseFinder(page, 'Ellipse')
    await drag(page, await at(page, 600, 200), await at(page, 1200, 800))
    await typeInto(page.locator('[data-step-card=ellipse]'), 'Feather, typed', 12)
    await saved(page)
    await menuPath(page, 'More for this layer', 'Cut what is selected to a layer')
    await page.waitForSelector('[data-layer="otter puppet piece"]')
    let out = await composite(page)
    check(worst(out, photo) <= 1, `laid back, the pieces are the photo again (${worst(out, photo)})`)

    // The piece moves 400 px to the right by arrow keys and typing; a hole stays.
    await stage(page, 'Compose')
    await page.locator('[data-layer="otter puppet piece"] button').first().click()
    await typeInto(page, 'X', 400)
    await saved(page)
    out = await composite(page)
    check(pixelAt(out, 700, 500)[3] < 10, 'where it was there is a hole')
    same(pixelAt(out, 1300, 500), pixelAt(photo, 900, 500), 1, 'and there it lies now')

    // All that shows as one layer, the rest kept: it looks the same.
    await addOnTop(page, quay)
    await stage(page, 'Compose')
    await page.getByLabel(/is blended/).selectOption('screen')
    await typeInto(page, 'Opacity, typed', 40)
    await saved(page)
    const before = await composite(page)
    await stage(page, 'Compose')
    await menuPath(page, 'More for this layer', 'Copy of everything visible')
    await page.waitForSelector('[data-layer="Everything visible"]', { timeout: 60_000 })
    await menuPath(page, 'More for this layer', 'Hide everything else')
    await saved(page)
    check(worst(await composite(page), before) === 0, 'merged it is the same, pixel for pixel')

    // Flattened, and taken back.
    await stage(page, 'Compose')
    const layers = (await recordsOf(page, application, id)).layers.length
    await menuPath(page, 'More for this layer', 'Flatten')
    await page.waitForSelector('[data-layer="Flattened"]', { timeout: 60_000 })
    check((await recordsOf(page, application, id)).layers.length === 1, 'one layer is left')
    check(worst(await composite(page), before) === 0, 'it shows the same')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+z')
    await saved(page)
    check((await recordsOf(page, application, id)).layers.length === layers, 'undo brings all layers back')

    // Paint stays inside the selection.
    await stage(page, 'Compose')
    await page.getByRole('radio', { name: 'Brush' }).click()
    await typeInto(page, 'Size, typed', 300)
    await drag(page, await at(page, 300, 500), await at(page, 1500, 500))
    await saved(page)
    const painted = (await recordsOf(page, application, id)).layers.at(-1)
    check(
      painted.kind === 'paint' && painted.items[0].area.recipe.steps.map((s) => s.kind).join() === 'ellipse,paint',
      'the stroke is kept with the selection it was painted in',
    )
    out = await composite(page)
    same(pixelAt(out, 900, 500), [0xc2, 0x41, 0x0c, 255], 1, 'inside there is paint')
    same(pixelAt(out, 400, 500), pixelAt(before, 400, 500), 1, 'outside there is none')

    // A part of it, straightened; all of it again.
    await stage(page, 'Compose')
    await page.getByRole('radio', { name: 'Crop' }).click()
    await page.waitForTimeout(300)
    await drag(page, await at(page, 500, 300), await at(page, 1100, 700))
    await page.getByRole('button', { name: 'Done' }).click()
    await saved(page)
    const cropped = await composite(page)
    check(cropped.width === 600 && cropped.height === 400, `the crop is ${cropped.width} × ${cropped.height}`)
    same(pixelAt(cropped, 100, 100), pixelAt(out, 600, 400), 1, 'it is that part')
    await stage(page, 'Compose')
    await page.getByRole('radio', { name: 'Crop' }).click()
    await page.getByRole('button', { name: 'Uncrop' }).click()
    await saved(page)
    check(worst(await composite(page), out) === 0, 'nothing was lost')
  } finally {
    await browser.close()
  }
}
