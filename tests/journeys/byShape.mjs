/** Boxes by hand and by number: proportions, units, arithmetic, snapping to guides and other steps, lines inside, fitting to content. */
import { join } from 'node:path'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import { at, beginWith, check, chooseFinder, clearSteps, drag, near, recordsOf, shareAfter } from './hands.mjs'

const photo = join(root, 'demo/pictures/otter-puppet.jpg')

export async function byShape(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, photo)
    const step = async (n = -1) => (await recordsOf(page, application, id)).selection.steps.at(n)
    const card = page.locator('[data-step-card]')
    const type = async (label, value) => {
      await card.getByLabel(label, { exact: true }).fill(value)
      await card.getByLabel(label, { exact: true }).press('Enter')
    }

    // A fixed ratio, swapped; then a fixed size.
    await chooseFinder(page, 'Rectangle')
    const pin = (what) => page.getByRole('group', { name: 'Pinned' }).getByRole('button', { name: what }).click()
    await pin('ratio')
    await page.getByRole('button', { name: 'Swap width and height' }).click()
    await drag(page, await at(page, 400, 200), await at(page, 600, 260))
    await shareAfter(page, 0)
    let box = await step()
    near(box.height / box.width, 1.5, 0.02, 'two to three, upright')
    await pin('width')
    await pin('height')
    await page.getByLabel('Pinned width').fill('320')
    await page.getByLabel('Pinned width').press('Enter')
    await page.getByLabel('Pinned height').fill('20*12')
    await page.getByLabel('Pinned height').press('Enter')
    await drag(page, await at(page, 900, 300), await at(page, 940, 330))
    await page.waitForTimeout(300)
    box = await step()
    check(box.width === 320 && box.height === 240, `a fixed size: ${box.width} × ${box.height}`)
    // A click places one of that size; the feather of the last is the next one's.
    await page.mouse.click(...(await at(page, 1200, 800)))
    await page.waitForTimeout(300)
    box = await step()
    check(box.width === 320 && box.height === 240, `a click places the fixed size: ${box.width} × ${box.height}`)
    near(box.x + 160, 1200, 3, 'about the click')
    await page.getByLabel('Feather, typed').fill('7')
    await page.getByLabel('Feather, typed').press('Enter')
    await clearSteps(page)
    await pin('width')
    await pin('height')

    // Switches stand for keys that fingers do not have.
    const grow = page.getByRole('group', { name: 'How boxes grow' })
    await grow.getByRole('button', { name: 'from the middle' }).click()
    await grow.getByRole('button', { name: 'equal sides' }).click()
    await drag(page, await at(page, 900, 600), await at(page, 1000, 640))
    await page.waitForTimeout(300)
    box = await step()
    check(box.width === box.height && box.feather === 7, `equal sides, feather ${box.feather}`)
    near(box.x + box.width / 2, 900, 2, 'drawn from the middle')
    await grow.getByRole('button', { name: 'from the middle' }).click()
    await grow.getByRole('button', { name: 'equal sides' }).click()
    await page.getByLabel('Feather, typed').fill('0')
    await page.getByLabel('Feather, typed').press('Enter')

    // A guide out of a ruler.
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('r')
    const ruler = await page.locator('[data-ruler=x]').boundingBox()
    await drag(page, [ruler.x + 300, ruler.y + 9], await at(page, 600, 400))
    await page.waitForSelector('[data-guides="1"]', { state: 'attached' })
    const pulled = (await recordsOf(page, application, id)).guides[0]
    check(pulled.axis === 'y', 'a guide across comes from the upper ruler')
    near(pulled.at, 400, 2, 'and lies where it was let go')
    await page.keyboard.press('Control+z')
    await page.waitForSelector('[data-guides="0"]', { state: 'attached' })
    await page.keyboard.press('r')

    // Typed in per cent and millimetres, with arithmetic.
    await card.getByRole('radio', { name: '%' }).click()
    await type('Width', '25')
    near((await step()).width, 450, 0.01, 'a quarter of the width')
    await type('X', '900/2 px')
    near((await step()).x, 450, 0.01, 'px typed into a field of per cent')
    await card.getByRole('radio', { name: 'mm' }).click()
    await type('Height', '25.4 mm')
    near((await step()).height, (await recordsOf(page, application, id)).ppi, 0.01, 'an inch is the resolution')
    await card.getByRole('radio', { name: 'px' }).click()

    // A guide through the pointer; a box dragged near it clings, and with Ctrl it does not.
    await clearSteps(page)
    await page.mouse.move(...(await at(page, 700, 500)))
    await page.keyboard.press('g')
    await page.waitForSelector('[data-guides="1"]', { state: 'attached' })
    const guide = (await recordsOf(page, application, id)).guides[0].at
    near(guide, 700, 2, 'the guide lies where the pointer was')
    await drag(page, await at(page, 300, 300), await at(page, guide + 7, 600))
    await shareAfter(page, 0)
    box = await step()
    check(box.x + box.width === guide, `the side clings to the guide at ${guide}: ${box.x + box.width}`)
    await drag(page, await at(page, 250, 250), await at(page, guide + 7, 600), ['Control'])
    await page.waitForTimeout(300)
    box = await step()
    check(Math.abs(box.x + box.width - guide - 7) <= 2, `with Ctrl it stays where it was put: ${box.x + box.width}`)
    // Another box clings to the first one's edge and the canvas's.
    await drag(page, await at(page, box.x + box.width + 12, 500), await at(page, 1300, 1192), ['Shift'])
    await page.waitForTimeout(400)
    const next = await step()
    check(
      next.x === box.x + box.width && next.y + next.height === 1200,
      `it clings to the other step’s side and the canvas’s: ${next.x}, ${next.y + next.height}`,
    )
    // The guide is dragged off the canvas and gone.
    const grip = await page.locator('[data-grip="Guide 1"]').boundingBox()
    await drag(page, [grip.x + grip.width / 2, grip.y + grip.height / 2], await at(page, -200, 10))
    await page.waitForSelector('[data-guides="0"]', { state: 'attached' })

    // Lines inside, mirrored.
    await page.getByLabel('Lines inside the box').selectOption('spiral')
    await page.getByRole('button', { name: 'Mirror the lines left to right' }).click()

    // Fit to what is inside, a paw whose arm leaves on the right; to nothing on the plain wall.
    await clearSteps(page)
    await drag(page, await at(page, 60, 480), await at(page, 330, 900))
    await shareAfter(page, 0)
    const before = await step()
    await card.getByRole('button', { name: 'Trim to content' }).click()
    await page.waitForFunction(
      ([x, w]) => {
        const f = document.querySelector('[data-step-card] input[aria-label="X"]')
        return (
          f &&
          parseFloat(f.value) !== x &&
          parseFloat(document.querySelector('[data-step-card] input[aria-label="Width"]').value) < w
        )
      },
      [before.x, before.width],
    )
    const fitted = await step()
    near(fitted.x, 175, 8, 'shrunk to the paw on the left')
    near(fitted.y, 605, 8, 'and from above')
    await clearSteps(page)
    await drag(page, await at(page, 60, 300), await at(page, 160, 400))
    await shareAfter(page, 0)
    await card.getByRole('button', { name: 'Trim to content' }).click()
    await page.waitForSelector('text=Nothing to trim to')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
