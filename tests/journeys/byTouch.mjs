/** With fingers: a box dragged, a further one that takes away by the switch for the next step, a handle moved, the view pinched and panned. */
import { join } from 'node:path'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import { at, beginWith, check, near, recordsOf, saved, shareAfter } from './hands.mjs'

const photo = join(root, 'demo/pictures/lantern-quay.jpg')
const AREA = 1800 * 1200

export async function byTouch(application) {
  const browser = await openBrowser(undefined, { hasTouch: true })
  const { page } = browser
  try {
    const id = await beginWith(page, application, photo)
    const fingers = await page.context().newCDPSession(page)
    const touch = (type, points) =>
      fingers.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], n) => ({ x, y, id: n })) })
    const swipe = async (froms, tos, steps = 12) => {
      await touch('touchStart', froms)
      for (let k = 1; k <= steps; k++)
        await touch(
          'touchMove',
          froms.map(([x, y], n) => [x + ((tos[n][0] - x) * k) / steps, y + ((tos[n][1] - y) * k) / steps]),
        )
      await touch('touchEnd', [])
    }
    await page.getByRole('button', { name: 'Rectangle', exact: true }).tap()
    await swipe([await at(page, 400, 300)], [await at(page, 1000, 800)])
    near(await shareAfter(page, 0), (100 * 600 * 500) / AREA, 0.2, 'a box dragged with a finger')
    await page.getByRole('radio', { name: 'Takes away from what is selected' }).tap()
    await swipe([await at(page, 600, 400)], [await at(page, 800, 700)])
    near(await shareAfter(page, 13.9), (100 * (600 * 500 - 200 * 300)) / AREA, 0.2, 'another one takes away')
    const grip = await page.locator('[data-grip="Stretch right"]').boundingBox()
    const from = [grip.x + grip.width / 2, grip.y + grip.height / 2]
    await swipe([from], [[from[0] + 40, from[1]]])
    await page.waitForTimeout(400)
    const { steps } = (await recordsOf(page, application, id)).selection
    check(
      steps.length === 2 && steps[1].op === 'subtract' && steps[1].width > 260,
      `the handle follows the finger: ${steps[1].width}`,
    )

    // A pen that presses harder along the way draws a stroke that grows.
    await page.getByRole('radio', { name: 'Adds to what is selected' }).tap()
    await page.getByRole('button', { name: 'Paint', exact: true }).tap()
    const pen = (type, [px, py], force) =>
      fingers.send('Input.dispatchMouseEvent', {
        type,
        x: px,
        y: py,
        button: 'left',
        buttons: 1,
        force,
        pointerType: 'pen',
        clickCount: 1,
      })
    const [fx, fy] = await at(page, 1200, 300),
      [tx] = await at(page, 1600, 300)
    await pen('mousePressed', [fx, fy], 0.2)
    for (let k = 1; k <= 10; k++) await pen('mouseMoved', [fx + ((tx - fx) * k) / 10, fy], 0.2 + 0.08 * k)
    await pen('mouseReleased', [tx, fy], 0)
    await page.waitForTimeout(300)
    const { strokes } = (await recordsOf(page, application, id)).selection.steps.at(-1)
    near(strokes[0].points[0][2], 0.2, 0.02, 'pressure at the start')
    check(strokes[0].points.at(-1)[2] > 0.9, `and at the end: ${strokes[0].points.at(-1)[2]}`)
    await page.keyboard.press('Control+z')

    // Two fingers: apart zooms, together pans; nothing is drawn.
    const scale = async () => Number((await page.locator('svg[data-view]').getAttribute('data-view')).split(' ')[2])
    const before = await scale(),
      [x, y] = await at(page, 900, 600)
    await swipe(
      [
        [x - 40, y],
        [x + 40, y],
      ],
      [
        [x - 120, y],
        [x + 120, y],
      ],
    )
    near((await scale()) / before, 3, 0.15, 'pinched to three times')
    const place = await at(page, 900, 600)
    await swipe(
      [
        [x - 60, y],
        [x + 60, y],
      ],
      [
        [x - 60, y + 90],
        [x + 60, y + 90],
      ],
    )
    near((await at(page, 900, 600))[1] - place[1], 90, 8, 'two fingers pan')
    check((await recordsOf(page, application, id)).selection.steps.length === 2, 'and draw nothing')
    await saved(page)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
