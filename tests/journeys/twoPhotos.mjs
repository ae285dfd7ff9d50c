/** The everyday cases of two photos into one, from upload to the delivered file: a gradient mask, a painted blend, a colour through a shape. (The cut-out over a new backdrop is cutOutAndCompose.) Each in at most four acts. */
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
  dragGrip,
  menuPath,
  pixelAt,
  pixels,
  recordsOf,
  same,
  saved,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')

export async function twoPhotos(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const below = await pixels(quay),
      above = await pixels(otter)
    const acts = async (id) => (await (await fetch(`${application.url}/api/projects/${id}`)).json()).acts.length
    const begun = async () => {
      const id = await beginWith(page, application, quay)
      await addOnTop(page, otter)
      await saved(page)
      return { id, before: await acts(id) }
    }

    // A gradient mask between the two: one act makes it, its end is dragged where it should be.
    let { id, before } = await begun()
    await menuPath(page, 'More for this layer', 'Mask', 'Gradient')
    await page.waitForSelector('[data-grip="End of the gradient"]')
    await dragGrip(page, 'Start of the gradient', await at(page, 400, 600))
    await dragGrip(page, 'End of the gradient', await at(page, 1400, 600), ['Shift'])
    await saved(page)
    check((await acts(id)) - before <= 4, `the gradient took ${(await acts(id)) - before} acts`)
    let out = await composite(page)
    same(pixelAt(out, 200, 500), pixelAt(below, 200, 500), 1, 'left of the gradient the quay shows')
    same(pixelAt(out, 1600, 500), pixelAt(above, 1600, 500), 1, 'right of it the puppet')
    const half = pixelAt(below, 900, 300).map((v, c) => (v + pixelAt(above, 900, 300)[c]) / 2)
    same(pixelAt(out, 900, 300), half, 2, 'half way both, half and half')

    // A painted blend: a white mask, painted black where the quay should come through; X paints it back.
    ;({ id, before } = await begun())
    await menuPath(page, 'More for this layer', 'Mask', 'White: all shown; paint hides')
    await page.getByLabel('Size, typed').first().fill('200')
    await page.keyboard.press('Enter')
    await drag(page, await at(page, 300, 300), await at(page, 1500, 300))
    await drag(page, await at(page, 300, 900), await at(page, 1500, 900))
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('x')
    await drag(page, await at(page, 900, 300), await at(page, 1500, 300))
    await saved(page)
    check((await acts(id)) - before <= 4, `the painted blend took ${(await acts(id)) - before} acts`)
    check(
      (await recordsOf(page, application, id)).layers[1].mask.recipe.steps
        .map((s) => `${s.kind} ${s.op ?? ''}`)
        .join() === 'all ,paint subtract,paint add',
      'strokes of one kind are one step',
    )
    out = await composite(page)
    same(pixelAt(out, 500, 300), pixelAt(below, 500, 300), 1, 'where black was painted the quay shows')
    same(pixelAt(out, 1300, 300), pixelAt(above, 1300, 300), 1, 'painted white again the puppet is back')
    same(pixelAt(out, 1300, 900), pixelAt(below, 1300, 900), 1, 'the other stroke stays')
    same(pixelAt(out, 900, 600), pixelAt(above, 900, 600), 1, 'unpainted the puppet shows')

    // A shape that lets the colour below through.
    id = await beginWith(page, application, otter)
    before = await acts(id)
    await chooseFinder(page, 'Ellipse')
    await drag(page, await at(page, 500, 200), await at(page, 1300, 1000))
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await menuPath(page, 'Add a layer', 'Colour')
    await page.keyboard.press('Escape')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Alt+ArrowDown')
    await saved(page)
    check((await acts(id)) - before <= 4, `the shape over a colour took ${(await acts(id)) - before} acts`)
    out = await composite(page)
    same(pixelAt(out, 900, 600), pixelAt(above, 900, 600), 1, 'inside the shape the photo')
    same(pixelAt(out, 100, 100), [0xc2, 0x41, 0x0c, 255], 1, 'outside it the colour')
  } finally {
    await browser.close()
  }
}
