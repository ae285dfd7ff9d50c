/** Masks whose steps are changed after a reload and that move apart from their picture; an adjustment on a masked area only; a curve by hand. */
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
  dragTakenBack,
  fromLinear,
  menuPath,
  near,
  openProject,
  pixelAt,
  pixels,
  recordsOf,
  same,
  saved,
  stage,
  toLinear,
  typeInto,
  workOnSelection,
  workOnMask,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
const brighter = (v, stops) => Math.min(255, 255 * fromLinear(toLinear(v / 255) * 2 ** stops))

export async function masksAndTones(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    await page.addInitScript(() => {
      window.tilesAsked = 0
      const post = Worker.prototype.postMessage
      Worker.prototype.postMessage = function (message, ...more) {
        if (message?.path?.at(-1) === 'tile') window.tilesAsked++
        return post.call(this, message, ...more)
      }
    })
    const tilesAsked = () => page.evaluate(() => window.tilesAsked)
    const below = await pixels(quay),
      above = await pixels(otter)
    const id = await beginWith(page, application, quay)
    await addOnTop(page, otter)
    await stage(page, 'Select')
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 600, 300), await at(page, 1000, 900))
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await saved(page)

    // Tomorrow its steps are still steps.
    await openProject(page, `${application.url}/project/${id}`)
    await page.waitForSelector('text=Mask of otter puppet')
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent.includes('%'))
    const box = page.locator('[data-step-card=rectangle]')
    await typeInto(box, 'Width', 800)
    await saved(page)
    let out = await composite(page)
    same(pixelAt(out, 1300, 600), pixelAt(above, 1300, 600), 1, 'the wider mask shows more of the picture')
    same(pixelAt(out, 500, 600), pixelAt(below, 500, 600), 1, 'what lies beside it stays hidden')

    // The mask goes 200 px to the left, the picture stays.
    await stage(page, 'Compose')
    await workOnMask(page, 'otter puppet')
    await page.getByRole('switch', { name: 'Moves with the picture' }).click()
    await page.waitForSelector('[data-grip^="Scale mask of"]')
    await drag(page, await at(page, 900, 600), await at(page, 700, 600), ['Control'])
    await saved(page)
    out = await composite(page)
    same(pixelAt(out, 500, 600), pixelAt(above, 500, 600), 1, 'the mask lies farther left')
    same(pixelAt(out, 1300, 600), pixelAt(below, 1300, 600), 1, 'and no longer on the right')
    const puppet = (await recordsOf(page, application, id)).layers.find((layer) => layer.name === 'otter puppet')
    check(JSON.stringify(puppet.placement) === '[1,0,0,1,0,0]', 'the picture has not moved')

    // An adjustment on a masked area only, its value by dragging.
    await stage(page, 'Select')
    await workOnSelection(page)
    await chooseFinder(page, 'Ellipse')
    await drag(page, await at(page, 1250, 500), await at(page, 1650, 900))
    await menuPath(page, 'Add a layer', 'Adjust light', 'Exposure')
    await saved(page)
    await stage(page, 'Compose')
    const thumb = await page.getByRole('slider', { name: 'Exposure', exact: true }).boundingBox(),
      x = thumb.x + thumb.width / 2,
      y = thumb.y + thumb.height / 2
    const atFirst = await tilesAsked()
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + 14, y, { steps: 4 })
    await page.waitForTimeout(1500)
    const whileHeld = await tilesAsked()
    check(whileHeld > atFirst, 'the picture follows the slider')
    await page.mouse.up()
    await saved(page)
    await page.waitForTimeout(500)
    check((await tilesAsked()) === whileHeld, 'nothing is drawn anew when it is let go where it is')
    const stops = (await recordsOf(page, application, id)).layers.find((layer) => layer.kind === 'adjust').adjustment
      .stops
    check(stops > 0.2, `the slider went to ${stops} stops`)
    const records = () => recordsOf(page, application, id)
    await dragTakenBack(page, [x + 14, y], [x - 40, y], records, 'a slider')
    const shown = await page.getByRole('slider', { name: 'Exposure', exact: true }).boundingBox()
    near(shown.x + shown.width / 2, x + 14, 3, 'the slider shows what it was')
    out = await composite(page)
    same(
      pixelAt(out, 1450, 700),
      pixelAt(below, 1450, 700).map((v, c) => (c < 3 ? brighter(v, stops) : v)),
      2,
      'inside the mask there is more light',
    )
    same(pixelAt(out, 1700, 1000), pixelAt(below, 1700, 1000), 1, 'outside it there is not')

    // A point on the curve, by hand; its histogram is there.
    await stage(page, 'Compose')
    await menuPath(page, 'Add a layer', 'Adjust light', 'Curves')
    await page.waitForSelector('[data-tones]')
    const counted = Number(await page.locator('[data-tones]').getAttribute('data-tones'))
    check(counted > 50_000, `the histogram counts ${counted} pixels`)
    const surface = await page.locator('[data-curve]').boundingBox()
    await drag(
      page,
      [surface.x + surface.width * 0.5, surface.y + surface.height * 0.5],
      [surface.x + surface.width * 0.5, surface.y + surface.height * 0.3],
    )
    await saved(page)
    const curve = (await recordsOf(page, application, id)).layers.find((layer) => layer.adjustment?.kind === 'curves')
      .adjustment.all
    check(curve.length === 3, 'the curve has a third point')
    const on = (u, v) => [surface.x + surface.width * u, surface.y + surface.height * v]
    await dragTakenBack(page, on(0.5, 0.3), on(0.6, 0.6), records, 'a point of a curve')
    await dragTakenBack(page, on(0.2, 0.6), on(0.3, 0.9), records, 'a new point of a curve')
    near(curve[1][1], 0.7, 0.03, 'where it was dragged')
    out = await composite(page)
    check(pixelAt(out, 1700, 1000)[0] > pixelAt(below, 1700, 1000)[0] + 3, 'the picture is lighter')
  } finally {
    await browser.close()
  }
}
