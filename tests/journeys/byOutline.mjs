/** A Bézier drawn, edited, exported and put in again; the selection turned into a path, and a layer clipped to it. */
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
  matteOf,
  near,
  overlap,
  recordsOf,
  selectedShare,
  shareAfter,
} from './hands.mjs'

const photo = join(root, 'demo/pictures/lantern-quay.jpg')
/** A circle's four curves (common practice): handles of 0.5523 of the radius. */
const [CX, CY, R, K] = [800, 600, 240, 0.5523]

export async function byOutline(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, photo)
    const matte = () => matteOf(page, application, id)
    const path = async () => (await recordsOf(page, application, id)).selection.steps.at(-1).d

    await chooseFinder(page, 'Ellipse')
    await drag(page, await at(page, CX - R, CY - R), await at(page, CX + R, CY + R))
    await shareAfter(page, 0)
    const disc = await matte()
    await clearSteps(page)

    // The same circle in four smooth points: each pressed at its place and pulled along the circle.
    await chooseFinder(page, 'Bézier')
    for (const [dx, dy] of [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ])
      await drag(
        page,
        await at(page, CX + dx * R, CY + dy * R),
        await at(page, CX + dx * R - dy * R * K, CY + dy * R + dx * R * K),
      )
    check((await path()).split('C').length === 4 && !(await path()).includes('Z'), 'open until it is closed')
    await page.keyboard.press('Backspace')
    await drag(page, await at(page, CX, CY - R), await at(page, CX + R * K, CY - R))
    await click(page, CX + R, CY) // on the ring
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 4)
    // A side is pulled: one act, a point more, taken back by one undo.
    const before = await path(),
      side = await at(page, CX + R * Math.SQRT1_2, CY + R * Math.SQRT1_2)
    await drag(page, side, [side[0] + 40, side[1] + 40])
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 5)
    check((await path()) !== before, 'the side was pulled')
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 4)
    check((await path()) === before, 'one undo takes it back')
    const drawn = overlap(disc.data, (await matte()).data)
    check(drawn >= 0.97, `the Bézier circle and the ellipse overlap by ${drawn.toFixed(4)}`)

    // A point added on the path, moved, converted to a corner, taken away again.
    const was = await selectedShare(page)
    await page.mouse.click(...(await at(page, CX + R * Math.SQRT1_2, CY + R * Math.SQRT1_2)))
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 5)
    check(Math.abs((await selectedShare(page)) - was) < 0.05, 'a further point leaves the curve as it is')
    await drag(
      page,
      await at(page, CX + R * Math.SQRT1_2, CY + R * Math.SQRT1_2),
      await at(page, CX + R * 1.2, CY + R * 1.2),
    )
    check((await shareAfter(page, was)) > was, 'moved out it encloses more')
    await page.getByRole('button', { name: 'Make corner' }).click()
    await page.waitForTimeout(300)
    await page.keyboard.press('Delete')
    await page.waitForFunction(() => document.querySelectorAll('[data-grip^="Point "]').length === 4)

    // Path data out and in; what is no path is refused in words.
    await page.locator('summary', { hasText: 'SVG path data' }).click()
    const field = page.getByRole('textbox', { name: 'SVG path data', exact: true })
    await field.fill('M 10 10 L 20')
    await page.waitForSelector('text=/This is no path: a number is missing at character/')
    await field.fill('M500 300 h600 v500 h-600 z')
    await page.getByRole('button', { name: 'Use this data' }).click()
    near(await shareAfter(page, was), (100 * 600 * 500) / (1800 * 1200), 0.1, 'path data put in')
    await clearSteps(page)

    // The selection as a path: traced, kept, selected again, and a layer clipped to it.
    await chooseFinder(page, 'Similar')
    await click(page, 300, 80)
    await shareAfter(page, 0)
    const sky = await matte()
    await page.getByRole('button', { name: 'Saved selections and paths' }).click()
    await page.getByRole('button', { name: 'Make the selection a path' }).click()
    await page.waitForSelector('[data-path-shown]')
    const points = Number(await page.locator('[data-traced]').getAttribute('data-traced'))
    await page.getByLabel('Tolerance, typed').last().fill('6')
    await page.getByLabel('Tolerance, typed').last().press('Enter')
    await page.waitForFunction((n) => Number(document.querySelector('[data-traced]')?.dataset.traced) < n, points)
    await page.getByLabel('Tolerance, typed').last().fill('0.5')
    await page.getByLabel('Tolerance, typed').last().press('Enter')
    await page.waitForFunction((n) => Number(document.querySelector('[data-traced]')?.dataset.traced) > n / 2, points)
    await page.getByRole('button', { name: 'Save path' }).click()
    await page.waitForSelector('[data-kept="Path 1"]')
    await page.keyboard.press('Escape')
    await clearSteps(page)
    await page.getByRole('button', { name: 'Saved selections and paths' }).click()
    await page.locator('[data-kept="Path 1"]').getByRole('button', { name: 'Select' }).click()
    await page.keyboard.press('Escape')
    await shareAfter(page, 0)
    const traced = overlap(sky.data, (await matteByCommand(page, application, id, photo)).data)
    check(traced >= 0.97, `the traced path and the sky it was traced from overlap by ${traced.toFixed(4)}`)
    await page.getByRole('button', { name: 'Saved selections and paths' }).click()
    await page.locator('[data-kept="Path 1"]').getByRole('button', { name: 'Clip layer' }).click()
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => document.querySelectorAll('[data-layer] [role=img]').length === 2)
    const { layers } = await recordsOf(page, application, id)
    check(layers[0].mask.recipe.steps[0].kind === 'path', 'the path is the one step of the layer’s mask')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `overlap: Bézier and ellipse ${drawn.toFixed(4)}; traced path and its selection ${traced.toFixed(4)} (${points} points at 0.8 px)`
  } finally {
    await browser.close()
    browser.forget()
  }
}
