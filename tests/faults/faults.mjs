/** Draws faults against the real page, server and database, and counts changes that were lost, doubled, reordered or stuck. */
import { randomUUID } from 'node:crypto'
import sharp from 'sharp'
import { openBrowser } from '../journeys/browser.mjs'
import { bundled, scriptForPages } from '../madeUp/bundled.mjs'
import { JSON_HEADERS, pictureLayer, recordsWith, storePicture } from '../madeUp/project.mjs'
import { KINDS } from './kinds.mjs'

const WIDTH = 200,
  HEIGHT = 150
/** After everything is whole again, all must be saved within this time, ms. */
const STUCK_MS = 45_000
/** What the header says of saving, and why. */
const savingOf = async (page) => {
  const sign = page.locator('[data-saving]')
  return `${await sign.getAttribute('data-saving')}: ${await sign.getAttribute('title')}`
}
/** What is stored so long after it was said to be saved comes too late, ms. */
const LATE_MS = 3000
/** A project gets so many faults before the next one is begun. */
const FAULTS_A_PROJECT = 8
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** @param count how many faults @param kinds only these */
export async function drawFaults(application, { count, seed, kinds = Object.keys(KINDS), say = () => {} }) {
  const inPage = await scriptForPages(),
    { randomOf } = await bundled('random.ts')
  const random = randomOf(seed)
  const pictures = []
  for (let i = 0; i < 2; i++) {
    const file = await sharp({
      create: { width: WIDTH, height: HEIGHT, channels: 3, background: { r: 60 + i * 90, g: 120, b: 90 } },
    })
      .png()
      .toBuffer()
    const asset = await storePicture(application, file)
    pictures.push({ asset, width: WIDTH, height: HEIGHT, name: `picture ${i}` })
  }

  const sum = { faults: 0, changes: 0, lost: 0, doubled: 0, reordered: 0, stuck: 0, refused: 0, byKind: {} }
  const troubles = []
  let browser = await openBrowser()
  let edits = seed
  /** A connection that was kept from before a fault may break once more. */
  const asked = async (path, options) => {
    for (let tries = 0; ; tries++)
      try {
        return await fetch(`${application.url}/api/${path}`, options)
      } catch (error) {
        if (tries > 4) throw error
        await pause(200)
      }
  }
  const record = async (id) => (await asked(`projects/${id}`)).json()
  /** Every act a tab makes is noted outside it, so that none can be forgotten with it. */
  const noted = new Map()
  const prepare = async (context) => {
    await context.addInitScript({ content: inPage })
  }
  await prepare(browser.context)
  const ready = (page) => page.waitForFunction(() => globalThis.wilyScissor?.records(), undefined, { timeout: 30_000 })

  const edit = async (page) => {
    try {
      const made = await page.evaluate(
        ([seed, pictures]) => {
          if (!globalThis.wilyScissor?.records()) return null // still opening
          const before = globalThis.wilyScissor.head()
          const what = globalThis.madeUp.edit(seed, pictures)
          return { what, before, head: globalThis.wilyScissor.head() }
        },
        [++edits, pictures],
      )
      if (made?.head && made.head !== made.before && !/undo|redo/.test(made.what)) noted.set(made.head, made.what)
    } catch (error) {
      if (!/closed|destroyed|navigat|undefined|crash/i.test(String(error))) throw error
    }
  }

  for (let n = 0, id, pages = []; n < count; n++) {
    const name = kinds[n < kinds.length ? n : random.whole(0, kinds.length)],
      kind = KINDS[name]
    if (n % FAULTS_A_PROJECT === 0) {
      for (const page of pages) await page.close()
      noted.clear()
      const records = recordsWith([pictureLayer('first', pictures[0].asset, pictures[0])], pictures[0])
      id = randomUUID()
      await asked('projects', { method: 'POST', headers: JSON_HEADERS, body: JSON.stringify({ id, records }) })
      pages = []
    }
    const url = `${application.url}/project/${id}`
    const fresh = async (context, script) => {
      const page = await context.newPage()
      if (script) await page.addInitScript(script)
      for (let tries = 0; ; tries++) {
        try {
          await page.goto(url, { timeout: 15_000 })
          await ready(page)
          return page
        } catch (error) {
          if (tries > 3) throw error
          await pause(500)
        }
      }
    }
    while (pages.length < (kind.tabs ?? 1)) pages.push(await fresh(browser.context))
    while (pages.length > (kind.tabs ?? 1)) await pages.pop().close()
    const replace = (old, next) => pages.splice(pages.indexOf(old), 1, next)
    const tools = {
      application,
      random,
      edit,
      replace,
      get pages() {
        return pages
      },
      get page() {
        return pages[0]
      },
      get context() {
        return browser.context
      },
      open: async (old, script) => {
        await old.close().catch(() => {})
        return fresh(browser.context, script)
      },
      reload: async (page) => {
        await page.reload()
        await ready(page)
      },
      crash: async () => {
        const { profile } = browser
        await browser.kill()
        browser = await openBrowser(profile)
        await prepare(browser.context)
        pages = [await fresh(browser.context)]
      },
    }

    for (let i = random.whole(0, 3); i > 0; i--) await edit(random.one(pages))
    const working = (async () => {
      for (let i = random.whole(1, 4); i > 0; i--) {
        await pause(random.between(0, 120))
        await edit(pages[0])
      }
    })()
    await pause(random.between(0, 150))
    const end = await kind.strike(tools)
    await working
    for (let i = random.whole(0, 3); i > 0; i--) await edit(random.one(pages))
    await end()

    // ---- whole again: all of it must be safe, once, in order, and the same everywhere
    const began = Date.now()
    let stuck = false
    for (const page of pages) {
      await page.evaluate(() => window.dispatchEvent(new Event('online'))).catch(() => {})
      await page.waitForSelector('[data-saving=saved]', { timeout: STUCK_MS }).catch(() => (stuck = true))
    }
    let same = false,
      theirs,
      views = []
    while (!stuck && !same && Date.now() - began < STUCK_MS) {
      theirs = await record(id)
      views = await Promise.all(
        pages.map((page) =>
          page.evaluate(() => ({ records: globalThis.wilyScissor.records(), head: globalThis.wilyScissor.head() })),
        ),
      )
      same = views.every(({ records }) => JSON.stringify(sorted(records)) === JSON.stringify(sorted(theirs.records)))
      if (!same) {
        for (const page of pages) await page.evaluate(() => window.dispatchEvent(new Event('focus'))).catch(() => {})
        await pause(400)
      }
    }
    const bad = []
    if (stuck || !same) {
      sum.stuck++
      bad.push(
        stuck ? `stuck: ${(await Promise.all(pages.map(savingOf))).join(' | ')}` : 'the tabs and the server differ',
      )
    }
    theirs ??= await record(id)
    const ids = theirs.acts.map((act) => act.id)
    if (new Set(ids).size !== ids.length) {
      sum.doubled++
      bad.push('an act is there twice')
    }
    theirs.acts.forEach((act, i) => {
      if (act.parent !== null && ids.indexOf(act.parent) >= i) {
        sum.reordered++
        bad.push('an act stands before its parent')
      }
    })
    const aside = new Set(
      (await Promise.all(pages.map((page) => page.evaluate(() => globalThis.wilyScissor.aside())))).flat(),
    )
    const there = new Set(ids)
    // A change that comes after the page has said that everything is saved was not lost, but the page was wrong.
    const missing = [...noted.keys()].filter((made) => !there.has(made))
    if (missing.length && !stuck) {
      await pause(LATE_MS)
      for (const act of (await record(id)).acts)
        if (!there.has(act.id)) {
          there.add(act.id)
          bad.push(`said to be saved too early: ${noted.get(act.id) ?? act.label}`)
        }
    }
    // What was made after a refused change stands under a new id.
    for (const [made, what] of noted) {
      if (there.has(made)) continue
      if (aside.has(made) || (kind.refuses && theirs.acts.some((act) => act.label === what.split(/[,:]/)[0]))) {
        sum.refused++
        noted.delete(made)
      } else {
        sum.lost++
        bad.push(`lost: ${what}`)
        noted.delete(made)
      }
    }
    sum.faults++
    if (process.env.WILY_TELL) say(`${n} ${name}: ${bad.join('; ') || 'whole'} after ${Date.now() - began} ms`)
    sum.byKind[name] = (sum.byKind[name] ?? 0) + 1
    if (bad.length) {
      troubles.push(`fault ${n} (${name}, seed ${seed}): ${bad.join('; ')}`)
      say(troubles.at(-1))
      // The next ones begin with a clean sheet.
      for (const page of pages) await page.close().catch(() => {})
      pages = []
    }
    sum.changes = edits - seed
    if (n % 20 === 19)
      say(
        `${n + 1} faults, ${sum.changes} changes: ${sum.lost} lost, ${sum.doubled} doubled, ${sum.reordered} reordered, ${sum.stuck} stuck`,
      )
  }
  await browser.close()
  browser.forget()
  const left = application.scratchFiles()
  if (left.length) troubles.push(`left over: ${left.join(', ')}`)
  return { ...sum, troubles }
}

/** The same object whatever order its fields were written in. */
function sorted(value) {
  if (Array.isArray(value)) return value.map(sorted)
  if (value && typeof value === 'object')
    return Object.fromEntries(
      Object.keys(value)
        .sort()
        .map((key) => [key, sorted(value[key])]),
    )
  return value
}
