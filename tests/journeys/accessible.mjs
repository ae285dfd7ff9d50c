/** What an automatic check of accessibility (axe-core, with all of its rules) finds on every stage, dialog and menu, and in its colours in the dark: nothing. No hint is cut off. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { AxeBuilder } from '@axe-core/playwright'
import { post, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { beginWith, chooseFinder, click, openMenu, shareAfter, stage, workOnLayer, workOnMask } from './hands.mjs'
import { root } from './application.mjs'
import { join } from 'node:path'

const otter = join(root, 'demo/pictures/otter-puppet.jpg')

const TOOLS = [
  ...['Rectangle', 'Ellipse', 'Triangle', 'Band', 'Freehand', 'Corners', 'Bézier', 'Live wire', 'Edge band'],
  ...['Similar', 'Palette', 'Spot', 'Paint', 'Edge paint', 'Spread', 'Gradient'],
  ...['Rough box', 'Marks', 'Regions', 'Subject', 'Sky', 'Water'],
]

export async function accessible(application) {
  const browser = await openBrowser()
  const { page } = browser
  const found = new Map()
  let looks = 0
  const hidden = []
  /** @param only what is looked at, where not everything */
  const look = async (where, { inTheDark = false, only } = {}) => {
    for (const colorScheme of inTheDark ? ['light', 'dark'] : ['light']) {
      await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' })
      await page.waitForTimeout(50) // colours change over
      // Messages come and go by themselves, and are a library's.
      const axe = new AxeBuilder({ page }).setLegacyMode(true).exclude('[data-sonner-toaster]')
      // Off unless asked for: what is pressed is at least 24 px large, or has as much room around it (WCAG 2.2, 2.5.8).
      axe.options({ rules: { 'target-size': { enabled: true } }, resultTypes: ['violations'] })
      if (only) axe.include(only)
      // In the dark only the colours are others. A menu's entries are reached by arrow keys; what comes over the page stands outside its landmarks.
      if (colorScheme === 'dark') axe.withRules(['color-contrast'])
      else if (only || (await page.locator('[role=tooltip]').count()))
        axe.disableRules(['region', 'scrollable-region-focusable'])
      const faults = async () =>
        (await axe.analyze()).violations.flatMap(({ id, nodes }) =>
          nodes.map(({ target, failureSummary }) => ({ id, key: `${id} ${target.join(' ')}`, failureSummary })),
        )
      let seen = await faults()
      looks++
      if (seen.length) {
        // What is only there while something appears or goes is no fault: the same rule has to be broken twice (names change).
        const before = new Set(seen.map((fault) => fault.id))
        await page.waitForTimeout(1000)
        seen = (await faults()).filter((fault) => before.has(fault.id))
      }
      for (const { key, failureSummary } of seen)
        if (!found.has(key))
          found.set(key, `${where}, ${colorScheme}: ${key}\n    ${failureSummary.split('\n').slice(1).join(' ')}`)
    }
    await page.emulateMedia({ colorScheme: 'light' })
  }
  /** What the left column says of a tool lies within it. */
  const hintInSight = async (tool) => {
    const note = await page.locator('[aria-label=Stage] .note').last().boundingBox()
    if (!note || note.y + note.height > 774)
      hidden.push(`${tool} (${note ? Math.round(note.y + note.height - 774) : '?'} px)`)
  }
  const menu = async (where, open) => {
    await open()
    await page.waitForTimeout(200)
    await look(where, { only: '[role=menu], [role=dialog]' })
    await page.keyboard.press('Escape')
    await page.waitForTimeout(100)
  }
  try {
    await page.goto(application.url)
    await page.waitForSelector('[data-project]')
    await look('shelf', { inTheDark: true })
    const batch = randomUUID(),
      photo = await storePicture(application, readFileSync(otter))
    await post(application, 'batches', { id: batch, name: 'Looked at', plan: { version: 1, steps: [{ kind: 'all' }] } })
    await post(application, `batches/${batch}/pictures`, { pictures: [{ asset: photo, name: 'Otter' }] })
    await page.goto(`${application.url}/batches`)
    await page.getByText('Looked at').waitFor()
    await look('batches', { inTheDark: true })
    await page.getByText('Looked at').click()
    await page.getByRole('button', { name: 'Try the first three' }).click()
    await page.getByText('All 1 made').waitFor({ timeout: 60_000 })
    await look('a batch', { inTheDark: true })
    await page.goto(`${application.url}/library`)
    await page.locator('[data-picture]').first().waitFor()
    await page.getByRole('button', { name: 'Choose Plaster' }).click()
    await look('library', { inTheDark: true })
    await menu('more for a picture', () => page.getByRole('button', { name: 'More for Plaster' }).click())
    await page.goto(application.url)
    await page.waitForSelector('[data-project]')
    await beginWith(page, application, otter)
    await chooseFinder(page, 'Similar')
    await click(page, 130, 320)
    await shareAfter(page, 0)
    await page.waitForSelector('text=/spills at|never spills/', { timeout: 60_000 }).catch(() => {})
    await look('Select, a step', { inTheDark: true })
    for (const tool of TOOLS) {
      await chooseFinder(page, tool)
      await hintInSight(tool)
    }
    await chooseFinder(page, 'Rectangle')
    await look('Select, Rectangle')
    const button = (name) => page.getByRole('button', { name, exact: true }).click()
    await menu('what can be made of it', () => button('What else to make of it'))
    await menu('saved', () => button('Saved selections and paths'))
    await menu('more for all steps', () => button('More for all steps'))
    await menu('changing steps', () => button('Add a changing step'))
    await menu('history', () => button('History'))
    await menu('commands', () => page.keyboard.press('Control+k'))
    await menu('keys', async () => {
      await page.keyboard.press('?')
      await page.getByRole('button', { name: /^Keys of Make mask/ }).click()
      await page.keyboard.press('l')
    })
    await page.keyboard.press('Escape')
    await menu('zoom', () => page.locator('[data-zoom]').click())
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('r')
    for (let i = 0; i < 5; i++) await page.keyboard.press('+')
    await page.locator('[data-overview]').waitFor()
    await look('rulers and overview', { inTheDark: true })
    await page.keyboard.press('r')
    await page.keyboard.press('0')
    await menu('tint', () => page.getByRole('button', { name: /^Tint/ }).click())
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await page.waitForTimeout(600)
    await look('a mask', { inTheDark: true })
    await menu('mask menu', () => openMenu(page, 'Mask of otter puppet'))
    await stage(page, 'Edge')
    await button('Solve the edge')
    await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
    await page.waitForTimeout(1500)
    await look('Edge', { inTheDark: true })
    for (const name of ['Compose', 'Match', 'Export', 'Gather']) {
      await stage(page, name)
      await page.waitForTimeout(1200)
      await look(name, { inTheDark: true })
    }
    await menu('library, to take from', () => button('From the library …'))
    await stage(page, 'Compose')
    await workOnLayer(page, 'otter puppet')
    for (const hand of ['Crop', 'Place']) {
      await page.getByRole('radio', { name: hand, exact: true }).click()
      await look(`Compose, ${hand}`)
    }
    await workOnMask(page, 'otter puppet')
    await look('Compose, a mask')
    await menu('add a layer', () => button('Add a layer'))
    await menu('more for a layer', () => button('More for this layer'))
    for (const [group, name] of [
      ['Adjust light', 'Curves'],
      ['Adjust colour', 'Hue, saturation'],
    ]) {
      await button('Add a layer')
      for (const item of [group, name]) {
        const entry = page.getByRole('menuitem', { name: item, exact: true })
        await entry.waitFor()
        await page.waitForTimeout(120)
        await entry.focus()
        await page.keyboard.press('Enter')
      }
      await page.waitForTimeout(500)
      await look(name)
    }
    if (hidden.length) throw new Error(`hints are cut off at 1280 × 800: ${hidden.join(', ')}`)
    if (found.size) throw new Error(`${found.size} found:\n${[...found.values()].join('\n')}`)
    return `${looks} looks`
  } finally {
    await browser.close()
    browser.forget()
  }
}
