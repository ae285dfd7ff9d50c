/** The same region found in several ways: a box, corners clicked one by one, freehand, two bands that overlap; and an ellipse, a palette. */
import { join } from 'node:path'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import {
  at,
  beginWith,
  check,
  chooseFinder,
  clearSteps,
  click,
  drag,
  matteByCommand,
  near,
  overlap,
  saved,
  selectedShare,
  shareAfter,
  typeInto,
} from './hands.mjs'

const photo = join(root, 'demo/pictures/lantern-quay.jpg')
const [X0, Y0, X1, Y1] = [400, 300, 1000, 800]

export async function threeWays(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, photo)
    const matte = () => matteByCommand(page, application, id, photo),
      finder = (name) => chooseFinder(page, name),
      clear = () => clearSteps(page)
    const wanted = (100 * (X1 - X0) * (Y1 - Y0)) / (1800 * 1200)

    await finder('Rectangle')
    await drag(page, await at(page, X0, Y0), await at(page, X1, Y1))
    near(await shareAfter(page, 0), wanted, 0.3, 'a dragged box has its area')
    const boxed = await matte()
    await clear()

    await finder('Corners')
    for (const [x, y] of [
      [X0, Y0],
      [X1, Y0],
      [X1 - 150, Y1 + 100],
      [X1, Y1],
      [X0, Y1],
    ])
      await click(page, x, y)
    await page.keyboard.press('Backspace') // three corners back, to before the one set wrongly
    await page.keyboard.press('Backspace')
    await page.keyboard.press('Backspace')
    await click(page, X1, Y1)
    await click(page, X0, Y1)
    await click(page, X0, Y0) // on the ring: closes
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 4)
    const byCorners = await matte()
    await clear()

    await finder('Freehand')
    await page.mouse.move(...(await at(page, X0, Y0)))
    await page.mouse.down()
    for (const [x, y] of [
      [X1, Y0],
      [X1, Y1],
      [X0, Y1],
      [X0, Y0],
    ])
      await page.mouse.move(...(await at(page, x, y)), { steps: 20 })
    await page.mouse.up()
    await shareAfter(page, 0)
    const freehand = await matte()
    await clear()

    await finder('Band')
    await drag(page, await at(page, 200, Y0), await at(page, 210, Y1))
    await shareAfter(page, 0)
    await drag(page, await at(page, X0, 900), await at(page, X1, 905), ['Shift', 'Alt'])
    await page.waitForTimeout(500)
    const bands = await matte()
    await clear()

    const figures = Object.entries({ corners: byCorners, freehand, bands }).map(([name, other]) => {
      const iou = overlap(boxed.data, other.data)
      check(iou >= 0.97, `${name} and the box overlap by ${iou.toFixed(4)}`)
      return `${name} ${iou.toFixed(4)}`
    })

    // An ellipse from its centre, a palette of two clicks, and a changing step.
    await finder('Ellipse')
    const centre = await at(page, 700, 550)
    await page.mouse.move(...centre)
    await page.mouse.down()
    await page.keyboard.down('Alt')
    await page.mouse.move(...(await at(page, 900, 700)), { steps: 8 })
    await page.mouse.up()
    await page.keyboard.up('Alt')
    const ellipse = await shareAfter(page, 0)
    near(ellipse, (100 * Math.PI * 200 * 150) / (1800 * 1200), 0.3, 'an ellipse drawn from its centre has its area')
    await page.getByRole('button', { name: 'Add a changing step' }).click()
    await page.getByRole('menuitem', { name: 'Contour' }).click()
    check((await shareAfter(page, ellipse)) < ellipse / 2, 'a border keeps a ring')
    await clear()
    await finder('Palette')
    await click(page, 300, 80)
    const sky = await shareAfter(page, 0)
    await click(page, 560, 900)
    const more = await shareAfter(page, sky)
    check(sky > 15 && more >= sky, `a second colour adds (${sky} → ${more} %)`)
    check((await selectedShare(page)) === more, 'and it stays')
    await clear()

    // Paint a stroke, make it softer and smaller afterwards, erase across it.
    await finder('Paint')
    await typeInto(page, 'Size, typed', 120)
    await drag(page, await at(page, 500, 600), await at(page, 1100, 600), [], 20)
    const stroke = await shareAfter(page, 0)
    near(stroke, (100 * (600 * 120 + Math.PI * 3600)) / (1800 * 1200), 0.25, 'a hard stroke is a capsule')
    const card = page.locator('[data-step-card=paint]')
    await card.getByLabel('Size, typed').fill('60')
    await card.getByLabel('Size, typed').press('Enter')
    const smaller = await shareAfter(page, stroke)
    near(smaller, (100 * (600 * 60 + Math.PI * 900)) / (1800 * 1200), 0.2, 'made smaller afterwards')
    await card.getByRole('switch', { name: 'Next strokes erase' }).click()
    await drag(page, await at(page, 800, 400), await at(page, 800, 800), [], 12)
    near(smaller - (await shareAfter(page, smaller)), (100 * 120 * 60) / (1800 * 1200), 0.15, 'erased across')
    await saved(page)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `overlap with the box: ${figures.join(', ')}`
  } finally {
    await browser.close()
    browser.forget()
  }
}
