/** A project with ten thousand changes opens like one with ten; its whole history is there a moment later. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { check, openProject, recordsOf, saved } from './hands.mjs'

const MANY = 10_000,
  BATCH = 100,
  TRIES = 5

export async function manyChanges(application) {
  const post = async (path, body) => {
    const answer = await fetch(`${application.url}/api/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    check(answer.ok, `${path}: ${await answer.clone().text()}`)
    return answer.json()
  }
  const { asset } = await (
    await fetch(`${application.url}/api/pictures`, {
      method: 'POST',
      body: readFileSync(join(root, 'demo/pictures/otter-puppet.jpg')),
    })
  ).json()
  const make = async (count) => {
    const id = randomUUID()
    const layer = {
      id: 'otter',
      kind: 'picture',
      name: 'Otter',
      asset,
      width: 1800,
      height: 1200,
      placement: [1, 0, 0, 1, 0, 0],
      opacity: 1,
      visible: true,
      mask: null,
    }
    await post('projects', {
      id,
      records: {
        version: 1,
        name: 'Start',
        canvas: { width: 1800, height: 1200 },
        ppi: 300,
        layers: [layer],
        activeLayer: 'otter',
        selection: { version: 1, steps: [] },
        saved: [],
        paths: [],
        guides: [],
      },
    })
    let parent = null,
      revision = 0,
      name = 'Start'
    for (let from = 0; from < count; from += BATCH) {
      const acts = Array.from({ length: Math.min(BATCH, count - from) }, (_, i) => {
        const next = `Name ${from + i}`
        const act = {
          id: randomUUID(),
          parent,
          label: `Rename to ${next}`,
          forward: { fields: { set: { name: next } } },
          inverse: { fields: { set: { name } } },
          at: new Date().toISOString(),
        }
        parent = act.id
        name = next
        return act
      })
      ;({ revision } = await post(`projects/${id}/acts`, { acts, head: parent, revision, sending: randomUUID() }))
    }
    return id
  }
  const [few, many] = [await make(10), await make(MANY)]
  const browser = await openBrowser()
  const { page } = browser
  try {
    const opening = async (id) => {
      const times = []
      for (let i = 0; i < TRIES; i++) {
        const began = performance.now()
        await openProject(page, `${application.url}/project/${id}`)
        times.push(performance.now() - began)
        await page.waitForTimeout(800)
      }
      return times.sort((a, b) => a - b)[TRIES >> 1]
    }
    await opening(few)
    const [short, long] = [await opening(few), await opening(many)]
    // All of it is there: the first act can be gone to, and back.
    await page.waitForFunction((count) => globalThis.wilyScissor.acts().length === count, MANY)
    await page.getByRole('button', { name: 'History', exact: true }).click()
    await page.getByRole('button', { name: /Show older/ }).click()
    check(
      (await page.getByRole('button', { name: /^Rename to Name/ }).count()) === 400,
      'the list shows some at a time',
    )
    await page.keyboard.press('Escape')
    check(
      await page.evaluate(() => globalThis.wilyScissor.goTo(globalThis.wilyScissor.acts()[0])),
      'the first act can be gone to',
    )
    await saved(page)
    check((await recordsOf(page, application, many)).name === 'Name 0', 'the first of them was gone to')
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `opening with 10 changes ${short.toFixed(0)} ms, with ${MANY} ${long.toFixed(0)} ms: ratio ${(long / short).toFixed(2)}`
  } finally {
    await browser.close()
    browser.forget()
  }
}
