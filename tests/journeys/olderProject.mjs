/** A project as an earlier version stored it, in the database: it opens, every state can be gone back to, and work goes on. */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { check, openProject, recordsOf, saved } from './hands.mjs'

const ID = '00000000-0000-4000-8000-0000000000e1'

export async function olderProject(application) {
  const stored = JSON.parse(readFileSync(join(root, 'tests/fixtures/stored-project-1.json'), 'utf8'))
  for (const picture of stored.pictures)
    await fetch(`${application.url}/api/pictures`, { method: 'POST', body: Buffer.from(picture, 'base64') })
  const quoted = (value) => `'${(typeof value === 'string' ? value : JSON.stringify(value)).replaceAll("'", "''")}'`
  const { initial, acts, head, records } = stored
  application.sqlFile(
    [
      `insert into project (id, name, width, height, initial, head) values ('${ID}', ${quoted(records.name)}, ${initial.canvas.width}, ${initial.canvas.height}, ${quoted(initial)}, '${head}');`,
      ...acts.map(
        (act, i) =>
          `insert into act (id, project, seq, parent, label, forward, inverse, at) values ('${act.id}', '${ID}', ${i + 1}, ${act.parent ? `'${act.parent}'` : 'null'}, ${quoted(act.label)}, ${quoted(act.forward)}, ${quoted(act.inverse)}, '${act.at}');`,
      ),
    ].join('\n'),
  )
  const browser = await openBrowser()
  const { page } = browser
  try {
    await openProject(page, `${application.url}/project/${ID}`)
    check(
      JSON.stringify((await recordsOf(page, application, ID)).layers.map((l) => l.id)) ===
        JSON.stringify(records.layers.map((l) => l.id)),
      'it opens as it was',
    )
    for (let i = 0; i < 8; i++) await page.keyboard.press('Control+z')
    await saved(page)
    await page.getByLabel('Project name').fill('Carried on')
    await page.keyboard.press('Enter')
    await saved(page)
    for (let i = 0; i < 60; i++) await page.keyboard.press('Control+z')
    await saved(page)
    check(
      (await recordsOf(page, application, ID)).layers.length === initial.layers.length,
      'undo goes back to its start',
    )
    await page.getByRole('button', { name: 'History', exact: true }).click()
    await page.getByRole('button', { name: /Rename to Carried on/ }).click()
    await page.keyboard.press('Escape')
    await saved(page)
    check((await recordsOf(page, application, ID)).name === 'Carried on', 'and what was done since is gone forward to')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `${acts.length} acts of an earlier version`
  } finally {
    await browser.close()
    browser.forget()
  }
}
