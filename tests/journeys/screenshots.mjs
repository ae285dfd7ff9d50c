/** Refreshes docs/screenshots from the demo data. Usage: node tests/journeys/screenshots.mjs */
import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { root, startApplication } from './application.mjs'
import { post, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import {
  at,
  beginWith,
  click,
  drag,
  dragGrip,
  menuPath,
  openProject,
  saved,
  shareAfter,
  stage as stageOf,
  typeInto,
  workOnMask,
} from './hands.mjs'

const application = await startApplication()
const browser = await openBrowser()
const { page } = browser
const project = (letter) => `${application.url}/project/00000000-0000-4000-8000-00000000${letter}000`
/** Of what is final: nothing shown is still being made. */
const shot = async (name) => {
  await page.waitForTimeout(900)
  if (await page.locator('[data-surface=picture]').count())
    await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
}
const stage = (name) => stageOf(page, name)
try {
  await page.goto(application.url)
  await page.waitForSelector('text=Autumn tour poster')
  await shot('shelf')
  await page.goto(`${application.url}/library`)
  await page.getByLabel('Part of the library').getByText('Skies').click()
  await page.locator('[data-picture]').first().waitFor()
  await page.waitForTimeout(1500)
  await shot('library')

  await openProject(page, project('a'))
  await click(page, 430, 1060)
  let share = await shareAfter(page, 0)
  await typeInto(page, 'Tolerance, typed', 34)
  share = await shareAfter(page, share)
  await page.waitForSelector('text=/spills at/', { timeout: 60_000 })
  await shot('select')

  // By shape: a box with lines inside, snapping to a guide, taken away from the pick.
  await click(page, 5530, 3000, ['Shift'])
  await shareAfter(page, share)
  await page.waitForTimeout(3000)
  await page.keyboard.press('1')
  await page.mouse.move(...(await at(page, 3560, 500)))
  await page.keyboard.press('g')
  await drag(page, await at(page, 2500, 900), await at(page, 3540, 1900), ['Alt'])
  await page.getByLabel('Lines inside the box').selectOption('golden')
  await page.getByRole('radio', { name: 'Ants' }).click()
  await page.waitForTimeout(1500)
  await shot('byShape')

  // By brush.
  await page.getByRole('button', { name: 'Paint', exact: true }).click()
  await typeInto(page, 'Size, typed', 260)
  await page.getByRole('radio', { name: 'Outside dimmed' }).click()
  await drag(page, await at(page, 2600, 3300), await at(page, 4200, 3500), ['Shift'], 24)
  await page.waitForTimeout(1500)
  await shot('byBrush')

  // By object: the puppet from a box, from marks, as the subject; its regions.
  const fresh = async (name) => {
    await page.keyboard.press('Control+Shift+a')
    await page.getByRole('radio', { name: 'Tint' }).click()
    await page.getByRole('button', { name, exact: true }).click()
  }
  await fresh('Rough box')
  await drag(page, await at(page, 400, 20), await at(page, 5600, 3990))
  await shareAfter(page, 0)
  await shot('roughBox')
  await fresh('Marks')
  await drag(page, await at(page, 3000, 700), await at(page, 3000, 3600))
  await shareAfter(page, 0)
  await drag(page, await at(page, 1100, 2450), await at(page, 4900, 2450))
  await page.getByRole('radio', { name: 'drop', exact: true }).click()
  await drag(page, await at(page, 300, 500), await at(page, 1000, 700))
  await page.getByRole('radio', { name: 'unsure', exact: true }).click()
  await drag(page, await at(page, 1700, 500), await at(page, 1900, 1500))
  await page.waitForSelector('[data-selected]:not([aria-busy=true])', { timeout: 60_000 })
  await page.waitForTimeout(1000)
  await shot('marks')
  await fresh('Regions')
  await click(page, 2950, 1700)
  await shareAfter(page, 0)
  await page.mouse.move(...(await at(page, 2400, 2500)))
  await page.waitForTimeout(1200)
  await shot('regions')

  // By outline: the sky traced to a path, and the path's points.
  await openProject(page, project('c'))
  await page.getByRole('button', { name: 'Similar', exact: true }).click()
  await click(page, 800, 100)
  await shareAfter(page, 0)
  await page.getByRole('button', { name: 'Saved selections and paths' }).click()
  await page.getByLabel('Name of the selection').fill('Dull sky')
  await page.getByRole('button', { name: 'Save selection' }).click()
  await page.getByRole('button', { name: 'Make the selection a path' }).click()
  await page.waitForSelector('[data-path-shown]')
  await page.getByRole('button', { name: 'In place of the steps' }).click()
  await page.keyboard.press('Escape')
  await page.waitForTimeout(600)
  await page.locator('[data-grip^="Point "]').nth(40).click({ force: true })
  await shot('byOutline')

  // A wire along the tower's roof, a band around the tower, and the sky by itself.
  await fresh('Live wire')
  await click(page, 1225, 372)
  await page.mouse.move(...(await at(page, 1310, 160)), { steps: 8 })
  await click(page, 1310, 160)
  await page.mouse.move(...(await at(page, 1392, 362)), { steps: 20 })
  await page.waitForTimeout(800)
  await shot('liveWire')
  await page.keyboard.press('Enter')

  // By colour: spots over the roof, a palette with its histogram.
  await page.keyboard.press('Control+Shift+a')
  await page.getByRole('button', { name: 'Spot', exact: true }).click()
  await typeInto(page, 'Radius, typed', 140)
  await click(page, 1310, 270)
  await page.getByRole('button', { name: 'Palette', exact: true }).click()
  await click(page, 640, 640, ['Shift'])
  await page.waitForTimeout(600)
  await click(page, 860, 640)
  await page.waitForSelector('[data-histogram]')
  await page.getByRole('radio', { name: 'Cutout' }).click()
  await shot('byColour')
  await page.getByRole('radio', { name: 'Tint' }).click()

  await openProject(page, project('b'))
  await page.waitForTimeout(6000)
  await stage('Compose')
  await page.waitForTimeout(1500)
  await shot('compose')
  await menuPath(page, 'Add a layer', 'Adjust light', 'Curves')
  await page.waitForSelector('[data-tones]')
  const curve = await page.locator('[data-curve]').boundingBox()
  await drag(
    page,
    [curve.x + curve.width * 0.28, curve.y + curve.height * 0.72],
    [curve.x + curve.width * 0.26, curve.y + curve.height * 0.8],
  )
  await drag(
    page,
    [curve.x + curve.width * 0.7, curve.y + curve.height * 0.35],
    [curve.x + curve.width * 0.68, curve.y + curve.height * 0.18],
  )
  await shot('adjustment')
  await menuPath(page, 'More for this layer', 'Mask', 'Gradient')
  await dragGrip(page, 'Start of the gradient', await at(page, 500, 1000))
  await dragGrip(page, 'End of the gradient', await at(page, 900, 200))
  await page.getByRole('button', { name: 'add a stop' }).click()
  await page.waitForTimeout(1200)
  await shot('mask')
  await stage('Export')
  await shot('export')

  // Many pictures at once: the demo's, and skies, of which a subject is rather doubtful.
  const pictures = ['otter-puppet', 'puppet-stage', 'lantern-quay'].map((name) => join('demo/pictures', `${name}.jpg`)),
    skies = readdirSync(join(root, 'skies')).filter((name) => name.endsWith('.jpg')).slice(0, 5) // prettier-ignore
  const batch = randomUUID(),
    steps = [{ kind: 'subject' }, { kind: 'edge', reach: 6 }],
    named = []
  for (const file of [...pictures, ...skies.map((name) => join('skies', name))])
    named.push({ asset: await storePicture(application, readFileSync(join(root, file))), name: basename(file, '.jpg').replaceAll('-', ' ') }) // prettier-ignore
  await post(application, 'batches', { id: batch, name: 'Cut-outs for the webshop', plan: { version: 1, steps, output: { longest: 1200 } } }) // prettier-ignore
  await post(application, `batches/${batch}/pictures`, { pictures: named })
  await page.goto(`${application.url}/batch/${batch}`)
  await page.getByRole('button', { name: 'Try the first three' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="First results"] img').length === 3, null, { timeout: 240_000 }) // prettier-ignore
  await shot('batch')

  // A new sky over the quay.
  await page.goto(application.url)
  await beginWith(page, application, join(root, 'demo/pictures/lantern-quay.jpg'))
  await stage('Match')
  await page.waitForFunction(
    () =>
      [...document.querySelectorAll('[role=option]')].filter((card) => /fits/.test(card.getAttribute('aria-label')))
        .length > 12,
    null,
    { timeout: 120_000 },
  )
  await page.getByRole('option', { name: /^Copper evening/ }).click()
  await page.getByRole('region', { name: 'Light on the land' }).waitFor({ timeout: 60_000 })
  await page.getByRole('region', { name: 'Measured in this photo' }).getByText('levels').waitFor({ timeout: 60_000 })
  await page.waitForTimeout(1500)
  await shot('match')

  // The otter brought into the light of the quay.
  await openProject(page, project('b'))
  await stage('Match')
  await page.locator('[data-layer="Otter puppet"]').click()
  await page.getByRole('button', { name: 'Match it' }).click()
  await page.getByRole('button', { name: 'Measure again' }).waitFor({ timeout: 60_000 })
  await page.waitForTimeout(4000)
  await shot('layerMatch')
  await page.keyboard.press('Control+z')
  await saved(page)

  // The otter's edge, solved as a matte, with the ribbon below.
  await openProject(page, project('b'))
  await workOnMask(page, 'Otter puppet')
  await stage('Edge')
  await page.getByRole('radio', { name: 'Cutout' }).click()
  await page.waitForTimeout(3000)
  await page.waitForFunction(() => Number(document.querySelector('[data-ribbon]').dataset.ribbon) > 1000)
  await page.waitForTimeout(4000)
  await shot('edge')
} finally {
  await browser.close()
  browser.forget()
  await application.stop()
}
