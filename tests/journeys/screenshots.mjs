/** Refreshes docs/screenshots from the demo data. Usage: node tests/journeys/screenshots.mjs */
import { join } from 'node:path'
import { root, startApplication } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { at, click, drag, openProject, shareAfter, typeInto } from './hands.mjs'

const application = await startApplication()
const browser = await openBrowser()
const { page } = browser
const project = (letter) => `${application.url}/project/00000000-0000-4000-8000-00000000${letter}000`
const shot = async (name) => { await page.waitForTimeout(900); await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) }) }
const stage = (name) => page.getByRole('button', { name, exact: true }).click()
try {
  await page.goto(application.url)
  await page.waitForSelector('text=Autumn tour poster')
  await shot('shelf')

  await openProject(page, project('a'))
  await click(page, 430, 1060)
  let share = await shareAfter(page, 0)
  await typeInto(page, 'Tolerance, typed', 34)
  share = await shareAfter(page, share)
  await page.waitForSelector('text=/spills at/', { timeout: 60_000 })
  await shot('select')

  await click(page, 5530, 3000, ['Shift'])
  await shareAfter(page, share)
  await page.waitForTimeout(3000)
  await page.keyboard.press('1')
  await drag(page, await at(page, 2500, 900), await at(page, 3560, 1900), ['Alt'])
  await page.getByRole('radio', { name: 'Ants' }).click()
  await page.waitForTimeout(1500)
  await shot('rectangle')

  await page.getByRole('button', { name: 'Paint', exact: true }).click()
  await typeInto(page, 'Size, typed', 260)
  await page.getByRole('radio', { name: 'Outside dimmed' }).click()
  await drag(page, await at(page, 2600, 3300), await at(page, 4200, 3500), ['Shift'], 24)
  await page.waitForTimeout(1500)
  await shot('paint')

  await openProject(page, project('b'))
  await stage('Compose')
  await page.waitForTimeout(1500)
  await shot('compose')
  await stage('Deliver')
  await shot('deliver')
} finally { await browser.close(); browser.forget(); await application.stop() }
