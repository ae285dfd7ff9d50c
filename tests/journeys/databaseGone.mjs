/** The database dies under the open page: work goes on, the page says what is unsaved, and everything is there once it is back. */
import { openBrowser } from './browser.mjs'
import { check, click, openProject, saved, shareAfter, typeInto, workOnSelection } from './hands.mjs'

const DEMO = '00000000-0000-4000-8000-00000000b000'

export async function databaseGone(application) {
  const browser = await openBrowser()
  const { page } = browser
  let down = false
  try {
    await openProject(page, `${application.url}/project/${DEMO}`)
    await saved(page)
    const before = await (await fetch(`${application.url}/api/projects/${DEMO}`)).json()

    application.killDatabase()
    down = true
    await page.getByRole('button', { name: 'Compose', exact: true }).click()
    await typeInto(page, 'X', 320)
    await typeInto(page, 'Y', '336-30')
    await page.waitForSelector('[data-saving=waiting]', { timeout: 20_000 })
    await page.waitForSelector('[data-saving=waiting]:has-text("2 changes not saved yet")', { timeout: 10_000 })
    await typeInto(page, 'Scale', 80)
    // What the server says meanwhile is one sentence, and it stays up.
    const answer = await fetch(`${application.url}/api/projects`)
    check(
      answer.status === 503 && /database cannot be reached/.test((await answer.json()).problem),
      'the server says that its database is gone',
    )

    // The browser is closed and opened again while the database is still away: the project waits for it, nothing is lost.
    await page.reload()
    await page.waitForSelector('text=This project cannot be opened now')
    application.restartDatabase()
    down = false
    await page.getByRole('button', { name: 'Try again' }).click()
    await page.waitForSelector('svg[data-view]')
    await saved(page)
    const after = await (await fetch(`${application.url}/api/projects/${DEMO}`)).json()
    check(
      after.acts.length === before.acts.length + 3,
      `every act is saved: ${after.acts.length - before.acts.length} of 3`,
    )
    const { placement } = after.records.layers.find((layer) => layer.mask)
    // X and Y were typed before the scale, which keeps the middle of the 1800 × 1200 px where it is.
    check(
      Math.abs(placement[0] - 0.8) < 1e-9 &&
        Math.abs(placement[4] - (320 - 900 * 0.08)) < 1e-6 &&
        Math.abs(placement[5] - (306 - 600 * 0.08)) < 1e-6,
      `the placement is the last one typed: ${placement}`,
    )

    // And work goes on as before.
    await page.getByRole('button', { name: 'Select', exact: true }).click()
    await workOnSelection(page)
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent === 'nothing selected')
    await click(page, 60, 60)
    check((await shareAfter(page, 0)) > 0, 'a pick works after the database came back')
    await saved(page)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    if (down) application.restartDatabase()
    await browser.close()
    browser.forget()
  }
}
