/** A cut-out over a new backdrop, matched to it: measured, set, measured again, undone; the page's picture is its export. */
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  beginWith,
  check,
  chooseFinder,
  composite,
  drop,
  near,
  pixelAt,
  pixels,
  recordsOf,
  saved,
  shareAfter,
  stage,
  typeInto,
  until,
} from './hands.mjs'

const picture = (name) => join(root, 'demo/pictures', name)
const BELLY = [940, 850],
  WALL = [200, 200],
  LEFT_ARM = [403, 791],
  RIGHT_ARM = [1411, 791]

export async function layerMatch(application) {
  const browser = await openBrowser(),
    { page } = browser
  try {
    const id = await beginWith(page, application, picture('otter-puppet.jpg'))
    const records = async () => {
      await saved(page)
      return (await recordsOf(page, application, id)).layers
    }
    // The puppet is cut out and the quay put below it.
    await chooseFinder(page, 'Subject')
    await page.getByRole('button', { name: 'Find the subject' }).click()
    await shareAfter(page, 0)
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await stage(page, 'Match')
    const match = page.getByRole('button', { name: 'Match it' })
    check((await match.getAttribute('aria-disabled')) === 'true', 'nothing lies below it yet, and the button says so')
    await page.getByText('Nothing lies below otter puppet').waitFor()
    await drop(page, '[data-canvas]', [picture('lantern-quay.jpg')], { x: 0.5, y: 0.8 })
    await page.getByText('lantern quay').first().waitFor({ timeout: 60_000 })
    const before = await composite(page)
    const quay = await pixels(picture('lantern-quay.jpg'))
    near(pixelAt(before, ...WALL)[0], pixelAt(quay, ...WALL)[0], 2, 'the quay lies behind it')

    await page
      .getByRole('button', { name: /otter puppet/ })
      .first()
      .click()
    await stage(page, 'Match')
    await match.click()
    await page.getByRole('button', { name: 'Measure again' }).waitFor({ timeout: 60_000 })
    const layers = await records(),
      light = layers.find((layer) => layer.adjustment?.kind === 'relight')
    check(
      light?.clipped && light.measured.tone === 1,
      'the light of the surroundings is clipped to it, and knows what was measured',
    )
    // The puppet is lit from the left, the quay from everywhere: its right side gets what its left one has more.
    const side = layers.find((layer) => layer.adjustment?.kind === 'sideLight')
    check(
      side?.clipped && side.adjustment.angle === 90 && side.adjustment.stops > 0.1,
      `light from its other side, as measured: ${JSON.stringify(side?.adjustment)}`,
    )
    const matched = await composite(page),
      brightness = (image, at) => pixelAt(image, ...at).reduce((sum, v, c) => sum + (c < 3 ? v : 0), 0)
    check(
      brightness(matched, BELLY) < 0.9 * brightness(before, BELLY),
      `the puppet is darker in the evening: ${pixelAt(before, ...BELLY)} → ${pixelAt(matched, ...BELLY)}`,
    )
    check(pixelAt(matched, ...WALL).join() === pixelAt(before, ...WALL).join(), 'what lies behind it is as it was')

    const around = (image, [x, y]) => {
        let sum = 0
        for (let v = -40; v < 40; v += 4) for (let u = -40; u < 40; u += 4) sum += brightness(image, [x + u, y + v])
        return sum
      },
      leftOver = (image) => around(image, LEFT_ARM) / around(image, RIGHT_ARM)
    check(
      leftOver(matched) < 0.95 * leftOver(before),
      `its left arm is less light beside its right one: ${leftOver(before).toFixed(2)} → ${leftOver(matched).toFixed(2)}`,
    )

    // Arrow keys move the layer here, and bring no sky.
    await stage(page, 'Match')
    await page.locator('[data-canvas]').focus()
    for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowRight')
    const right = async () => (await records()).find((layer) => layer.name === 'otter puppet').placement[4]
    await until(async () => (await right()) === 3, 'three presses are 3 px')
    check((await records()).length === layers.length, 'no layer more')
    // One change where the presses follow each other as a hand's do: a slow machine may make more of them.
    while ((await right()) > 0) await page.keyboard.press('Control+z')

    // What was set stays when it is measured again; undone step by step.
    await stage(page, 'Match')
    await typeInto(page, 'Tone, typed', 30)
    await page.getByRole('button', { name: 'Measure again' }).click()
    await page.getByRole('button', { name: 'Measure again' }).waitFor()
    near((await records()).find((layer) => layer.id === light.id).adjustment.tone, 0.3, 1e-6, 'the tone that was set')
    for (let k = 0; k < 2; k++) await page.keyboard.press('Control+z')
    check(!(await records()).some((layer) => layer.kind === 'adjust'), 'undone, nothing is clipped to it')
    return `puppet at ${BELLY}: ${pixelAt(before, ...BELLY).slice(0, 3)} → ${pixelAt(matched, ...BELLY).slice(0, 3)}`
  } finally {
    await browser.close()
  }
}
