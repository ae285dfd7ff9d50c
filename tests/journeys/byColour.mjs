/** Spots that keep and exclude, a palette with its histogram, a limit to some colours: one roof found in three ways. */
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
  menuOf,
  overlap,
  recordsOf,
  selectedShare,
  shareAfter,
  typeInto,
} from './hands.mjs'

const photo = join(root, 'demo/pictures/lantern-quay.jpg')
/** The tower's roof lies in this box. */
const ROOF = [1210, 150, 1410, 380]

export async function byColour(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, photo)
    const matte = () => matteOf(page, application, id)
    const roofPixel = [1310, 270]

    // By a pick.
    await chooseFinder(page, 'Similar')
    await click(page, ...roofPixel)
    await shareAfter(page, 0)
    const picked = await matte()
    await clearSteps(page)

    // A press beside an open menu closes it and does nothing to the picture; the focus is where the menu hangs.
    const zoom = page.locator('[data-zoom]')
    await zoom.click()
    await page.getByRole('menu').waitFor()
    await click(page, ...roofPixel)
    await page.getByRole('menu').waitFor({ state: 'detached' })
    check(await zoom.evaluate((button) => button === document.activeElement), 'the focus comes back to the zoom')
    check(!(await recordsOf(page, application, id)).selection.steps.length, 'the press picked nothing')
    // No tip comes up beside what its button has open, where the pointer rests on it.
    const more = page.getByRole('button', { name: 'More for this layer' })
    await more.click()
    await page.getByRole('menu').waitFor()
    await more.dispatchEvent('pointermove', { pointerType: 'mouse' })
    await page.waitForTimeout(600)
    check(!(await page.getByRole('tooltip').count()), 'no tip beside an open menu')
    await page.keyboard.press('Escape')
    await page.getByRole('menu').waitFor({ state: 'detached' })

    // By one spot around it.
    await chooseFinder(page, 'Spot')
    await typeInto(page, 'Radius, typed', 140)
    await page.getByText('More: core, spread').click()
    await typeInto(page, 'Core, typed', 100)
    await typeInto(page, 'Spread, typed', 16)
    await click(page, ...roofPixel)
    await shareAfter(page, 0)
    const spot = overlap(picked.data, (await matte()).data)
    // The ring's handle makes it smaller; a spot that excludes takes away.
    await drag(
      page,
      await at(page, roofPixel[0] + 0.5 + 140, roofPixel[1] + 0.5),
      await at(page, roofPixel[0] + 100, roofPixel[1]),
    )
    await page.waitForTimeout(300)
    const ring = (await recordsOf(page, application, id)).selection.steps[0].radius
    check(ring < 120, `the outer ring follows its handle: ${ring}`)
    const one = await selectedShare(page)
    await click(page, roofPixel[0] + 20, roofPixel[1] + 45, ['Alt'])
    check((await shareAfter(page, one)) < one / 2, 'an excluding spot takes it away')
    await clearSteps(page)
    await drag(page, await at(page, 300, 150), await at(page, 900, 150), [], 30)
    await shareAfter(page, 0)
    const many = (await recordsOf(page, application, id)).selection.steps
    check(many.length >= 5 && many.every((s) => s.kind === 'colourSpot'), `a drag sets many spots: ${many.length}`)
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent === 'nothing selected')

    // By a box limited to the colour.
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, ROOF[0], ROOF[1]), await at(page, ROOF[2], ROOF[3]))
    const boxed = await shareAfter(page, 0)
    await menuOf(page, 'Add a changing step', 'Only some colours')
    // The picker comes along; Shift adds to it as well.
    await click(page, ...roofPixel)
    await page.getByText('1 colour', { exact: true }).waitFor()
    await click(page, ROOF[0] + 3, ROOF[1] + 3, ['Shift'])
    await page.getByText('2 colours', { exact: true }).waitFor()
    await page.keyboard.press('Control+z')
    await page.getByText('1 colour', { exact: true }).waitFor()
    await page.waitForSelector('[data-histogram]')
    await page.waitForFunction((share) => {
      const text = document.querySelector('[data-selected]').textContent
      const now = parseFloat(text)
      return now > 0 && now < share
    }, boxed)
    const card = page.locator('[data-step-card]')
    await card.getByLabel('Spread, typed').fill('16')
    await card.getByLabel('Spread, typed').press('Enter')
    await page.waitForTimeout(600)
    const limited = overlap(picked.data, (await matteByCommand(page, application, id, photo)).data)
    await clearSteps(page)

    // A palette whose threshold is dragged on its histogram.
    await chooseFinder(page, 'Palette')
    await click(page, ...roofPixel)
    const first = await shareAfter(page, 0)
    await page.waitForSelector('[data-histogram]')
    const chart = await page.getByRole('slider', { name: 'Spread on the histogram' }).boundingBox()
    await drag(page, [chart.x + chart.width * 0.24, chart.y + 30], [chart.x + chart.width * 0.6, chart.y + 30])
    const wider = await shareAfter(page, first)
    check(wider > first, `a wider spread finds more: ${first} → ${wider} %`)
    const { spread } = (await recordsOf(page, application, id)).selection.steps[0]
    check(Math.abs(spread - 60) <= 1, `the threshold lies where it was let go: ${spread}`)
    for (const [name, iou] of Object.entries({ spot, limited }))
      check(iou >= 0.9, `${name} and the pick overlap by ${iou.toFixed(4)}`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `the roof, overlap with a similar pick: spot ${spot.toFixed(4)}, box limited to the colour ${limited.toFixed(4)}`
  } finally {
    await browser.close()
    browser.forget()
  }
}
