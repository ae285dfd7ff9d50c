/** What stays: saved selections and their loading, the last selection, steps copied to another photo, the selection moved without its pixels; before and after; cross-hair; straight strokes. */
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
  dragTakenBack,
  menuOf,
  near,
  recordsOf,
  saved,
  selectedShare,
  shareAfter,
  typeInto,
} from './hands.mjs'

const quay = join(root, 'demo/pictures/lantern-quay.jpg'),
  otter = join(root, 'demo/pictures/otter-puppet.jpg')
const AREA = 1800 * 1200

export async function kept(application) {
  const browser = await openBrowser(undefined, { permissions: ['clipboard-read', 'clipboard-write'] })
  const { page } = browser
  try {
    const id = await beginWith(page, application, quay)
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 200, 200), await at(page, 800, 600))
    const whole = await shareAfter(page, 0)
    await page.getByRole('button', { name: 'Saved selections and paths' }).click()
    await page.getByLabel('Name of the selection').fill('Left')
    await page.getByRole('button', { name: 'Save selection' }).click()
    await page.waitForSelector('[data-kept=Left]')
    await page.keyboard.press('Escape')
    await clearSteps(page)

    // Another one, and the saved one taken away from it.
    await drag(page, await at(page, 600, 200), await at(page, 1000, 600))
    const other = await shareAfter(page, 0)
    await page.getByRole('button', { name: 'Saved selections and paths' }).click()
    await page.getByRole('button', { name: 'Load Left: it takes away' }).click()
    near(await shareAfter(page, other), (100 * 200 * 400) / AREA, 0.05, 'loaded, it takes away the overlap')
    check(
      (await page
        .getByRole('region', { name: 'Saved selections' })
        .getByRole('button', { name: 'Remove Left' })
        .getAttribute('aria-disabled')) === 'true',
      'one that is used is not removed',
    )
    await page.keyboard.press('Escape')
    // After a reload it still means the same.
    await saved(page)
    await page.reload()
    await page.waitForSelector('svg[data-view]')
    check(
      await page.evaluate(() => {
        const dataTransfer = new DataTransfer()
        dataTransfer.items.add(new File(['x'], 'x.png', { type: 'image/png' }))
        return !document.body.dispatchEvent(
          new DragEvent('dragover', { dataTransfer, bubbles: true, cancelable: true }),
        )
      }),
      'what is dropped is taken from the first moment on',
    )
    near(await shareAfter(page, 0), (100 * 200 * 400) / AREA, 0.05, 'after a reload')
    await clearSteps(page)
    await page.keyboard.press('Shift+l')
    near(await shareAfter(page, 0), (100 * 200 * 400) / AREA, 0.05, 'the last selection is brought back')
    await clearSteps(page)

    // Moved, scaled without its pixels.
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 200, 200), await at(page, 800, 600))
    await shareAfter(page, 0)
    await menuOf(page, 'Add a changing step', 'Move, scale, rotate')
    await page.waitForSelector('[data-grip="Rotate selection"]')
    await drag(page, await at(page, 500, 400), await at(page, 700, 500))
    await page.waitForTimeout(400)
    near(await selectedShare(page), whole, 0.05, 'moved, it is as large as before')
    const corner = await page.locator('[data-grip="Scale selection lower right"]').boundingBox(),
      middle = await at(page, 700, 500)
    const from = [corner.x + corner.width / 2, corner.y + corner.height / 2]
    await drag(page, from, [(from[0] + middle[0]) / 2, (from[1] + middle[1]) / 2])
    near(
      await shareAfter(page, whole),
      whole * 0.75 ** 2,
      0.3,
      'a corner moved a quarter of the diagonal in: three quarters as long and wide',
    )
    const { matrix } = (await recordsOf(page, application, id)).selection.steps.at(-1)
    near(matrix[0], 0.75, 0.02, 'the record says so')

    // Pressed without moving, and moved and taken back by Escape: nothing.
    const recorded = async () => (await recordsOf(page, application, id)).selection.steps[1].matrix
    await click(page, ...(await at(page, 700, 500)))
    await dragTakenBack(page, await at(page, 700, 500), await at(page, 900, 700), recorded, 'a move')
    check(String(await recorded()) === String(matrix), 'a press alone moves nothing')

    // What is held is what the steps before select, turned: whatever comes after it, and when it is looked at again.
    const corners = () =>
      page.$$eval('[data-grip^="Scale selection"]', (grips) => grips.map((grip) => grip.getAttribute('aria-label')))
    await typeInto(page, 'Rotate, typed', '30')
    await page.waitForTimeout(500)
    const turned = String(await corners())
    await page.keyboard.press('Escape')
    await chooseFinder(page, 'Ellipse')
    await page.getByRole('radio', { name: 'Adds to what is selected' }).click()
    await drag(page, await at(page, 1200, 800), await at(page, 1500, 1000))
    await shareAfter(page, 0)
    await page.locator('[data-step=transform]').click()
    await page.waitForSelector('[data-grip="Rotate selection"]')
    await page.waitForTimeout(500)
    check(String(await corners()) === turned, 'the box lies as it was turned, around what it turns')
    await typeInto(page, 'Rotate, typed', '0')
    await page.waitForTimeout(500)
    near((await recorded())[4], matrix[4], 0.01, 'turned back it lies where it lay')
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await shareAfter(page, 0)
    check((await recordsOf(page, application, id)).selection.steps.length === 2, 'taken back')

    // The steps, by the clipboard onto another photo.
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+c')
    await page.waitForSelector('text=/2 steps copied/')
    const second = await beginWith(page, application, otter)
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+v')
    near(await shareAfter(page, 0), whole * 0.75 ** 2, 0.3, 'pasted onto another photo')
    check((await recordsOf(page, application, second)).selection.steps.length === 2, 'as the steps they were')
    await page.evaluate(() => navigator.clipboard.writeText('{"version":1,"steps":[{"kind":"rectangle","x":1}]}'))
    await page.keyboard.press('Control+v')
    await page.waitForSelector('text=/steps\\[0\\].y: is missing/')
    await clearSteps(page)

    // Paint: a stroke, then with Shift a straight one on from its end.
    await chooseFinder(page, 'Paint')
    await typeInto(page, 'Size, typed', 100)
    await drag(page, await at(page, 300, 600), await at(page, 500, 600))
    const stroke = await shareAfter(page, 0)
    await click(page, 1100, 600, ['Shift'])
    near(
      (await shareAfter(page, stroke)) - stroke,
      (100 * 600 * 100) / AREA,
      0.1,
      'Shift goes on straight from the last stroke’s end',
    )
    check(
      (await recordsOf(page, application, second)).selection.steps[0].strokes.length === 2,
      'as a further stroke of the same step',
    )

    // The tint over what is hidden instead; before and after; the cross-hair.
    const pixel = async (x, y) =>
      page.evaluate(
        ([sx, sy]) => {
          const c = document.querySelector('[data-surface=picture]'),
            b = c.getBoundingClientRect()
          return [
            ...c.getContext('2d').getImageData((sx - b.left) * devicePixelRatio, (sy - b.top) * devicePixelRatio, 1, 1)
              .data,
          ].slice(0, 3)
        },
        await at(page, x, y),
      )
    const inside = await pixel(700, 600),
      outside = await pixel(100, 1000)
    await page.getByRole('button', { name: /^Tint/ }).click()
    await page.getByRole('radio', { name: 'what is hidden' }).click()
    await page.keyboard.press('Escape')
    await page.waitForTimeout(400)
    const insideNow = await pixel(700, 600),
      outsideNow = await pixel(100, 1000)
    const differ = (a, b) => Math.max(...a.map((v, i) => Math.abs(v - b[i])))
    check(differ(inside, insideNow) > 25 && differ(outside, outsideNow) > 25, 'the tint lies over what is hidden')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('d')
    const handle = await page.locator('[data-grip="Before and after"] circle').boundingBox()
    await drag(page, [handle.x + 9, handle.y + 9], [(await at(page, 400, 600))[0], handle.y + 9])
    await page.waitForTimeout(400)
    check(differ(await pixel(100, 1000), outside) <= 3, 'left of the divider the picture is as it came')
    check(
      differ(await pixel(1500, 1000), [0, 0, 0]) > 0 && differ(await pixel(700, 600), insideNow) <= 3,
      'right of it as it is now',
    )
    await page.keyboard.press('d')
    await page.keyboard.press('c')
    check((await page.locator('[data-canvas].pointer-cross').count()) === 1, 'the pointer is a cross')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
