/** What a hand may do on the workbench, in any order: presses, drags with Escape or undo in the middle, keys, fields, menus, stages. */
import { isDeepStrictEqual } from 'node:util'
import { join } from 'node:path'
import { root } from '../journeys/application.mjs'
import { openBrowser } from '../journeys/browser.mjs'
import { beginWith, check, dragTakenBack, pictureComplete, recordsOf, until } from '../journeys/hands.mjs'

/** So many acts are done in one project, from its photo alone. */
const ACTS_A_PROJECT = 150
const PHOTOS = ['otter-puppet.jpg', 'lantern-quay.jpg', 'puppet-stage.jpg']
const KEYS = [
  ...['Escape', 'Enter', 'Backspace', 'Delete', 'Tab', 'Shift+Tab', 'ArrowLeft', 'Shift+ArrowDown', '[', ']', '?'],
  ...[
    'Control+z',
    'Control+z',
    'Control+Shift+z',
    'Control+a',
    'Control+Shift+a',
    'Control+k',
    'Control+c',
    'Control+v',
  ],
  ...'0123456789abcdefghijklmnopqrstuvwxyz',
]
const TYPED = ['1', '50', '0', '-3', '7.5', '999999', 'abc', '', '2*3', '12 cm', '#3366aa', 'x'.repeat(300)]
const STAGES = ['Gather', 'Select', 'Select', 'Edge', 'Compose', 'Match', 'Export']
/** What takes a press, or typing. */
const CONTROLS = ['button', 'input', 'select', 'summary', ...['radio', 'switch', 'menuitem', 'option', 'slider'].map((role) => `[role=${role}]`)] // prettier-ignore
/** What is taken hold of. */
const HELD = ['[data-grip]', '[role=slider]', '[data-curve]', '[data-surface=ribbon]', '[aria-label^="Curve point"]']
/** What is covered, or gone before it could be pressed, is no trouble. */
const PRESS_MS = 1000,
  GONE = /Timeout|not attached|detached|intercepts|not visible|outside|stable|not enabled|not an <input>|closed/

const ACTS = {
  async keys({ page, random }) {
    const key = random.one(KEYS)
    await page.keyboard.press(key)
    return key
  },
  async presses(hand) {
    const { page, random } = hand,
      [x, y] = await placeOn(hand),
      keys = random.chance(0.3) ? [random.one(['Shift', 'Alt', 'Control'])] : [],
      how = { clickCount: random.chance(0.1) ? 2 : 1, button: random.chance(0.05) ? 'right' : 'left' }
    await holding(page, keys, () => page.mouse.click(x, y, how))
    return `${Math.round(x)} ${Math.round(y)} ${keys} ${how.button} ${how.clickCount}`
  },
  async drags(hand) {
    const { page, random } = hand,
      from = await placeOn(hand),
      to = await placeOn(hand),
      keys = random.chance(0.3) ? [random.one(['Shift', 'Alt', 'Control', 'Space'])] : [],
      inTheMiddle = random.chance(0.2) ? random.one(['Escape', 'Control+z']) : null
    await holding(page, keys, async () => {
      await page.mouse.move(...from)
      await page.mouse.down()
      await page.mouse.move(...to, { steps: 5 })
      if (inTheMiddle) await page.keyboard.press(inTheMiddle)
      await page.mouse.up()
    })
    return `${from.map(Math.round)} ${to.map(Math.round)} ${keys} ${inTheMiddle ?? ''}`
  },
  /** Escape takes a drag back, although the hand moves on before it lets go: of handles, sliders, charts, strokes, outlines. */
  async takenBack(hand) {
    const { page, random, records } = hand,
      held = random.one(await page.locator(HELD.map((each) => `${each}:visible`).join(', ')).elementHandles()),
      box = held && random.chance(0.7) ? await held.boundingBox() : null,
      name = box ? await held.evaluate((e) => e.getAttribute('aria-label') ?? e.dataset.grip ?? e.outerHTML.slice(0, 60)) : 'the picture' // prettier-ignore
    const from = box ? [box.x + box.width / 2, box.y + box.height / 2] : await placeOn(hand),
      to = [from[0] + random.between(-120, 120), from[1] + random.between(-120, 120)]
    await page.waitForTimeout(600) // a burst before it ends
    await dragTakenBack(page, from, to, records, `a drag of ${name}`)
    return name
  },
  async turns(hand) {
    await hand.page.mouse.move(...(await placeOn(hand)))
    await hand.page.mouse.wheel(0, hand.random.between(-400, 400))
    return ''
  },
  async stages({ page, random }) {
    const name = random.one(STAGES)
    await page.getByRole('navigation', { name: 'Stages' }).getByText(name, { exact: true }).click({ timeout: PRESS_MS })
    return name
  },
  async controls({ page, random }) {
    const all = await page.locator(CONTROLS.map((each) => `${each}:visible`).join(', ')).elementHandles(),
      control = random.one(all)
    if (!control) return 'none: the picture alone is shown'
    const { tag, type, name, values } = await control.evaluate((element) => ({
      tag: element.tagName,
      type: element.getAttribute('role') ?? element.getAttribute('type'),
      name: element.getAttribute('aria-label') ?? element.textContent.slice(0, 40),
      values: element.tagName === 'SELECT' ? [...element.options].map(({ value }) => value) : [],
    }))
    if (tag === 'INPUT') {
      if (['file', 'color', 'checkbox', 'range'].includes(type)) return name
      const text = random.one(TYPED)
      await control.fill(text, { timeout: PRESS_MS })
      await page.keyboard.press(random.one(['Enter', 'Escape', 'Tab']))
      return `${name}: ${text.slice(0, 20)}`
    }
    if (tag === 'SELECT') {
      const value = random.one(values)
      await control.selectOption(value, { timeout: PRESS_MS })
      return `${name}: ${value}`
    }
    if (type === 'slider') {
      const box = await control.boundingBox()
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
      await page.mouse.down()
      await page.mouse.move(box.x + random.between(-60, 140), box.y, { steps: 4 })
      await page.mouse.up()
      return name
    }
    await control.click({ timeout: PRESS_MS })
    return name
  },
}
const OFTEN = { keys: 3, presses: 3, drags: 4, turns: 1, stages: 1, controls: 6, takenBack: 2 }
const DRAWN = Object.entries(OFTEN).flatMap(([kind, n]) => Array(n).fill(kind))

async function placeOn({ page, random }) {
  const box = await page.locator('[data-canvas]').boundingBox({ timeout: PRESS_MS })
  return [box.x + random() * box.width, box.y + random() * box.height]
}
async function holding(page, keys, act) {
  for (const key of keys) await page.keyboard.down(key)
  try {
    await act()
  } finally {
    for (const key of keys) await page.keyboard.up(key)
  }
}

/** More than there are acts. */
const MOST_BACK = 3 * ACTS_A_PROJECT

/** Goes back to the beginning, or on to the end, of what was done. */
async function go(page, label, key) {
  await page.locator('[data-canvas]').focus()
  const button = page.getByRole('button', { name: label, exact: true })
  for (let n = 0; (await button.getAttribute('aria-disabled')) !== 'true'; n++) {
    check(n < MOST_BACK, `${label} has no end`)
    await page.keyboard.press(key)
  }
}

/** @param count in projects of ACTS_A_PROJECT each @returns troubles, each one line, and how often what was done */
export async function drawActs(application, { count, random, say = () => {} }) {
  const troubles = [],
    byKind = {}
  for (let left = count; left > 0; left -= ACTS_A_PROJECT) {
    const browser = await openBrowser(),
      { page } = browser,
      last = []
    const trouble = (what) => troubles.push(`${what} (after ${last.slice(-5).join(' | ')})`)
    page.on('dialog', (dialog) => dialog.dismiss())
    page.on('response', (response) => {
      if (response.status() >= 400 && response.status() !== 404) trouble(`${response.status()} ${response.url()}`)
    })
    try {
      const id = await beginWith(page, application, join(root, 'demo/pictures', random.one(PHOTOS))),
        home = page.url(),
        begun = await recordsOf(page, application, id)
      for (let n = Math.min(left, ACTS_A_PROJECT); n > 0; n--) {
        const kind = random.one(DRAWN)
        try {
          last.push(`${kind} ${await ACTS[kind]({ page, random, records: () => recordsOf(page, application, id) })}`)
          byKind[kind] = (byKind[kind] ?? 0) + 1
        } catch (error) {
          if (!GONE.test(error.message)) trouble(`${kind}: ${error.message.split('\n')[0]}`)
        }
        await page.waitForTimeout(random.chance(0.3) ? 400 : 40)
        for (const told of browser.troubles.splice(0)) trouble(told)
        if (page.url() !== home) {
          await page.goto(home)
          await pictureComplete(page)
        }
      }
      // A dialog, a menu, what is being drawn, panels put away.
      for (let i = 0; i < 6; i++) await page.keyboard.press('Escape')
      await go(page, 'Redo', 'Control+Shift+z')
      const done = await recordsOf(page, application, id)
      await page.reload()
      await pictureComplete(page)
      await go(page, 'Undo', 'Control+z')
      if (!isDeepStrictEqual(await recordsOf(page, application, id), begun))
        trouble('going back to the beginning comes to something else')
      await go(page, 'Redo', 'Control+Shift+z')
      const again = await recordsOf(page, application, id)
      if (!isDeepStrictEqual(again, done)) trouble('going on again comes to something else')
      await until(() => page.locator('canvas[data-final=yes]').count(), 'the picture is complete', { within: 120_000 })
      for (const told of browser.troubles.splice(0)) trouble(told)
      say(
        `${done.layers.length} layers, ${done.selection.steps.length} steps of the selection; ${troubles.length} troubles so far`,
      )
    } catch (error) {
      trouble(error.message.split('\n')[0])
    } finally {
      await browser.close()
      browser.forget()
    }
  }
  return { troubles, byKind }
}
