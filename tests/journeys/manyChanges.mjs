/** A project with thousands of changes opens like one with ten; its whole history is there a moment later. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './application.mjs'
import { makeProject, pictureLayer, post, recordsWith, renaming, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, openProject, recordsOf, saved } from './hands.mjs'

const BATCH = 100

export async function manyChanges(application, { measure }) {
  const [MANY, TRIES] = measure ? [10_000, 5] : [2500, 3]
  const asset = await storePicture(application, readFileSync(join(root, 'demo/pictures/otter-puppet.jpg'))),
    size = { width: 1800, height: 1200 }
  const make = async (count) => {
    const id = await makeProject(application, recordsWith([pictureLayer('otter', asset, size)], size))
    let parent = null,
      revision = 0
    for (let from = 0; from < count; from += BATCH) {
      const acts = Array.from({ length: Math.min(BATCH, count - from) }, (_, i) => {
        const act = renaming(`Name ${from + i}`, from + i ? `Name ${from + i - 1}` : 'Made up', parent)
        parent = act.id
        return act
      })
      ;({ revision } = await post(application, `projects/${id}/acts`, {
        acts,
        head: parent,
        revision,
        sending: randomUUID(),
      }))
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
