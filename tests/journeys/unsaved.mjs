/** What cannot be saved is not in the way: names too long or with what cannot be kept, a change refused, an orphan from an earlier visit, a project deleted elsewhere. */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { check, drop, openProject, pictureComplete, recordsOf, saved, stage, typeInto } from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg')

export async function unsaved(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    // ---- a file with a name longer than any name here, and with what no database keeps
    await page.goto(application.url)
    await page.waitForSelector('text=Choose a photo')
    await drop(page, 'main', [{ name: `${'A very long name '.repeat(20)}.jpg`, bytes: readFileSync(otter) }])
    await page.waitForURL('**/project/*')
    await page.waitForSelector('svg[data-view]')
    await pictureComplete(page)
    await saved(page)
    const id = page.url().split('/').pop()
    check((await recordsOf(page, application, id)).name.length <= 200, 'a long file name is cut')
    for (const name of ['n'.repeat(195), 'with \u0000 NUL', 'half \ud83d a pair', 'Poster']) {
      await page.evaluate((name) => globalThis.wilyScissor.act(`Rename to ${name}`, (p) => void (p.name = name)), name)
      await saved(page)
    }
    check((await recordsOf(page, application, id)).name === 'Poster', 'all names were saved')

    // ---- more than a project may hold is refused in a sentence before it counts, and the next change goes through
    await page.evaluate(() =>
      globalThis.wilyScissor.act('Six hundred layers', (p) => {
        for (let i = 0; i < 600; i++) p.layers.push({ ...JSON.parse(JSON.stringify(p.layers[0])), id: `many-${i}` })
      }),
    )
    await page.getByText('This cannot be done here. layers: takes a list of up to 500 layers.').waitFor()
    check((await recordsOf(page, application, id)).layers.length === 1, 'nothing of it was kept')

    // ---- the server refuses one for good: it is set aside with its sentence, and what came after it stands
    let victim = null
    const route = async (route) => {
      const sent = route.request().method() === 'POST' ? route.request().postDataJSON() : null
      victim ??= sent?.acts?.[0]?.id ?? null
      if (sent?.acts?.some((act) => act.id === victim))
        await route.fulfill({
          status: 422,
          contentType: 'application/json',
          body: '{"problem":"Made up: not this one."}',
        })
      else await route.continue()
    }
    await page.route('**/acts', route)
    await stage(page, 'Compose')
    await typeInto(page, 'X', 40)
    await page.locator('[data-aside]').waitFor()
    await page.evaluate(() => globalThis.wilyScissor.act('Rename to Later', (p) => void (p.name = 'Later')))
    await saved(page)
    await page.unroute('**/acts', route)
    let records = await recordsOf(page, application, id)
    check(
      records.name === 'Later' && records.layers[0].placement[4] === 0,
      'the refused change is undone, the later one saved',
    )
    await page.locator('[data-aside]').click()
    await page.getByText('Made up: not this one.').last().waitFor()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Download it' }).click()
    const kept = JSON.parse(readFileSync(await (await download).path(), 'utf8'))
    check(kept.length === 1 && /Move|Place/.test(kept[0].act.label), `the file holds the change: ${kept[0]?.act.label}`)
    await page.keyboard.press('Escape')

    // ---- an earlier visit left a change whose parent the server never had
    await page.evaluate(async (id) => {
      const db = await new Promise((resolve) => {
        const opening = indexedDB.open('wily-scissor')
        opening.onsuccess = () => resolve(opening.result)
      })
      const act = {
        id: crypto.randomUUID(),
        parent: crypto.randomUUID(),
        label: 'Orphan',
        forward: { fields: { set: { name: 'Orphan' } } },
        inverse: { fields: { set: { name: 'x' } } },
        at: new Date().toISOString(),
      }
      await new Promise((resolve) => {
        const writing = db.transaction(['acts', 'heads'], 'readwrite')
        writing.objectStore('acts').add({ project: id, tab: 'gone', act })
        writing.objectStore('heads').put({ key: `${id} gone`, project: id, tab: 'gone', head: act.id })
        writing.oncomplete = resolve
      })
      db.close()
    }, id)
    await openProject(page, `${application.url}/project/${id}`)
    await saved(page)
    await page.locator('[data-aside="2"]').click()
    await page.getByText('It builds on a change that the server does not have.').waitFor()
    for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Discard' }).first().click()
    await page.locator('[data-aside]').waitFor({ state: 'detached' })
    await openProject(page, `${application.url}/project/${id}`)
    check((await page.locator('[data-aside]').count()) === 0, 'what was discarded is gone')

    // ---- and one of an earlier version, told by places, that fits: it is sent as it is told now
    const shown = await page.evaluate(() => globalThis.wilyScissor.head())
    await page.evaluate(
      async ([id, parent]) => {
        const db = await new Promise((resolve) => {
          const opening = indexedDB.open('wily-scissor')
          opening.onsuccess = () => resolve(opening.result)
        })
        const act = {
          id: crypto.randomUUID(),
          parent,
          label: 'Of an earlier version',
          forward: [{ op: 'replace', path: ['name'], value: 'From before' }],
          inverse: [{ op: 'replace', path: ['name'], value: 'Later' }],
          at: new Date().toISOString(),
        }
        await new Promise((resolve) => {
          const writing = db.transaction(['acts', 'heads'], 'readwrite')
          writing.objectStore('acts').add({ project: id, act })
          writing.objectStore('heads').put({ key: `${id} earlier`, project: id, tab: 'earlier', head: act.id })
          writing.oncomplete = resolve
        })
        db.close()
      },
      [id, shown],
    )
    await openProject(page, `${application.url}/project/${id}`)
    await saved(page)
    check((await recordsOf(page, application, id)).name === 'From before', 'a change of an earlier version is saved')

    // ---- deleted elsewhere: what is here is whole, and can be kept
    await fetch(`${application.url}/api/projects/${id}`, { method: 'DELETE' })
    await stage(page, 'Compose')
    await typeInto(page, 'X', 55)
    await page.locator('[data-saving=gone]').click()
    await page.getByRole('button', { name: 'Save as a new project' }).click()
    await page.waitForURL((url) => !url.pathname.endsWith(id))
    await page.waitForSelector('svg[data-view]')
    await pictureComplete(page)
    records = await recordsOf(page, application, page.url().split('/').pop())
    check(records.layers[0].placement[4] === 55, 'the new project has what was not saved')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
