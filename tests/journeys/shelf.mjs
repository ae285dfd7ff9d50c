/** Projects on the shelf: renamed, duplicated, searched, several deleted, taken back, deleted for good; several pictures dropped at once. */
import { join } from 'node:path'
import sharp from 'sharp'
import { makeProject, recordsWith } from '../madeUp/project.mjs'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { check, drop } from './hands.mjs'

const SIZE = { width: 60, height: 40 }
/** So long a deletion can be taken back, and then some, ms. */
const FOR_GOOD_MS = 9500

export async function shelf(application) {
  const browser = await openBrowser()
  try {
    const { page } = browser
    for (const name of ['Ladder', 'Lamp', 'Lantern one', 'Lantern two'])
      await makeProject(application, recordsWith([], SIZE, { name }))
    await page.goto(application.url)
    const card = (name) => page.locator('[data-project]').filter({ has: page.getByText(name, { exact: true }) })
    const stored = async () =>
      (await (await fetch(`${application.url}/api/projects`)).json()).projects.map(({ name }) => name)
    await card('Ladder').waitFor()
    check((await page.title()) === 'Projects · Wily Scissor', `the tab says where it is: ${await page.title()}`)
    const icon = await page.locator('link[rel=icon]').first().getAttribute('href')
    check((await page.request.get(new URL(icon, application.url).href)).ok(), 'and has an icon')

    await page.getByRole('button', { name: 'Rename Ladder' }).click()
    await page.keyboard.type('Step ladder')
    await page.keyboard.press('Escape')
    await card('Ladder').waitFor()
    await page.getByRole('button', { name: 'Rename Ladder' }).click()
    await page.keyboard.type('Step ladder')
    await page.keyboard.press('Enter')
    await card('Step ladder').waitFor()
    check((await stored()).includes('Step ladder'), 'the new name is stored')
    await page.getByRole('button', { name: 'Duplicate Step ladder' }).click()
    await card('Step ladder, copy').waitFor()

    // Where a page fails, or there is none, it says so and goes on.
    await page.route('**/api/projects', (route) => route.fulfill({ json: { projects: 5 } }))
    await page.goto(application.url)
    await page.getByRole('heading', { name: 'This page has failed' }).waitFor()
    await page.unroute('**/api/projects')
    const said = browser.troubles.splice(0)
    check(
      said.length > 0 && said.every((text) => /is not a function/.test(text)),
      `of this fault alone: ${said.join(' | ')}`,
    )
    await page.getByRole('button', { name: 'Try again' }).click()
    await card('Step ladder').waitFor()
    await page.goto(`${application.url}/nowhere`)
    await page.getByRole('heading', { name: 'There is nothing at this address' }).waitFor()
    await page.getByRole('link', { name: 'All projects' }).click()
    await card('Step ladder').waitFor()

    const cards = () => page.locator('[data-project]').count()
    await page.getByLabel('Search projects by name').fill('lant')
    await card('Lamp').waitFor({ state: 'detached' })
    check((await cards()) === 2, `the two of that name are found: ${await cards()}`)

    // Chosen ones go together, and come back.
    await page.getByRole('checkbox', { name: 'Choose Lantern one' }).click()
    await page.getByRole('checkbox', { name: 'Choose Lantern two' }).click()
    await page.getByText('2 chosen').waitFor()
    await page.getByRole('button', { name: 'Delete', exact: true }).click()
    await card('Lantern one').waitFor({ state: 'detached' })
    check((await stored()).includes('Lantern one'), 'it can still be taken back')
    await page.getByRole('button', { name: 'Undo' }).click()
    await card('Lantern one').waitFor()

    // For good: it stays away without a reload, and on the server.
    await page.getByRole('button', { name: 'Delete Lantern one' }).click()
    await card('Lantern one').waitFor({ state: 'detached' })
    await page.waitForTimeout(FOR_GOOD_MS)
    check((await card('Lantern one').count()) === 0, 'what is deleted stays away')
    check(!(await stored()).includes('Lantern one'), 'and is gone on the server')
    // One that is still waiting goes when the page is left.
    await page.getByRole('button', { name: 'Delete Lantern two' }).click()
    await page.getByRole('link', { name: 'Batches' }).click()
    await page.waitForURL(/batches/)
    for (let tries = 0; (await stored()).includes('Lantern two') && tries < 50; tries++) await page.waitForTimeout(100)
    check(!(await stored()).includes('Lantern two'), 'leaving the page does not keep it')

    // Two pictures and a text, dropped beside everything that takes them: a project each, and a sentence.
    await page.goto(application.url)
    await card('Lamp').waitFor()
    const pictures = []
    for (const name of ['red kite', 'blue kite']) {
      const file = join(application.data, `${name}.png`)
      await sharp({ create: { ...SIZE, channels: 3, background: name.split(' ')[0] } })
        .png()
        .toFile(file)
      pictures.push(file)
    }
    await drop(page, 'header', [...pictures, join(root, 'README.md')])
    await card('red kite').waitFor()
    await card('blue kite').waitFor()
    await page.getByRole('list', { name: 'Refused' }).getByText('README.md').waitFor()
    check(new URL(page.url()).pathname === '/', 'the browser stays')
    check(!browser.troubles.length, browser.troubles.join('\n'))
  } finally {
    await browser.close()
  }
}
