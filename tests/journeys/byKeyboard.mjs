/** Without a pointer: open a project from the shelf, change a step, invert, make a mask, undo, find a command. */
import { openBrowser } from './browser.mjs'
import { check, near, openProject, saved, selectedShare, shareAfter, shareAtRest, click } from './hands.mjs'

const DEMO = '00000000-0000-4000-8000-00000000a000'

export async function byKeyboard(application) {
  const browser = await openBrowser()
  const { page } = browser
  const press = async (...keys) => {
    for (const key of keys) await page.keyboard.press(key)
  }
  try {
    await page.goto(application.url)
    await page.waitForSelector('[data-project]')
    const tabTo = async (selector) => {
      for (let i = 0; i < 80 && !(await page.evaluate((s) => document.activeElement?.matches(s), selector)); i++)
        await press('Tab')
    }
    // Among many projects one is found by its name.
    if (await page.locator('input[type=search]').count()) {
      await tabTo('input[type=search]')
      await page.keyboard.type('Autumn tour')
    }
    await page.waitForSelector(`a[href="/project/${DEMO}"]`)
    await tabTo(`a[href="/project/${DEMO}"]`)
    await press('Enter')
    await page.waitForURL(`**/project/${DEMO}`)
    await openProject(page, page.url())
    check(
      (await page.title()) === 'Autumn tour poster · Wily Scissor',
      `the tab is told by its project: ${await page.title()}`,
    )
    await click(page, 430, 1060) // where to pick is the one thing a pointer says; all else by keys
    const share = await shareAfter(page, 0)

    // The tolerance by arrow keys on its slider.
    const slider = page.getByRole('slider', { name: 'Tolerance', exact: true })
    const typed = page.getByLabel('Tolerance, typed'),
      first = Number(await typed.inputValue())
    check(first >= 8 && first <= 64, `the first tolerance is the picture's: ${first}`)
    await slider.focus()
    await press('ArrowRight', 'ArrowRight', 'PageUp')
    const wider = await shareAfter(page, share)
    check(wider > share, `arrow keys widen the tolerance (${share} → ${wider} %)`)
    check(Number(await typed.inputValue()) === first + 12, 'by 2 and by 10')

    // Typing is taken back by Escape; Enter takes it.
    const takenBack = async (field, text) => {
      const was = await field.inputValue()
      await field.fill(text)
      await field.press('Escape')
      check(
        (await field.inputValue()) === was,
        `Escape takes “${text}” back: the field says “${await field.inputValue()}”`,
      )
    }
    await takenBack(typed, '61')
    check((await shareAtRest(page)) === wider, 'and nothing has changed')
    await takenBack(page.getByLabel('Project name'), 'Another name')
    const layer = page
        .locator('[data-layer]')
        .getByTitle(/F2 renames/)
        .first(),
      layerName = await layer.locator('span').first().textContent()
    for (const [key, wanted] of [
      ['Escape', layerName],
      ['Enter', 'Puppet, renamed'],
    ]) {
      await layer.focus()
      await press('F2')
      await page.getByLabel('Layer name').fill('Puppet, renamed')
      await press(key)
      check((await layer.locator('span').first().textContent()) === wanted, `${key}: the layer is called ${wanted}`)
    }
    await page.locator('[data-canvas]').focus()
    await press('Control+z')

    // I says that this is the background; M makes the mask.
    await page.locator('[data-canvas]').focus()
    await press('i')
    near(await shareAfter(page, wider), 100 - wider, 0.2, 'I turns the selection round')
    await press('m')
    await page.waitForSelector('text=Mask of Otter puppet, large')
    await page.locator('[data-canvas]').focus()
    await press('Control+z')
    await page.waitForSelector('h2:has-text("Selection")')
    await press('Control+Shift+z')
    await page.waitForFunction(() => document.querySelectorAll('[data-layer] [role=img]').length === 2)
    await press('Control+z')

    // A command by its name; views by key; help.
    await press('Control+k')
    await page.keyboard.type('View: Matte')
    await press('Enter')
    check(
      (await page.getByRole('radio', { name: 'Matte' }).getAttribute('aria-checked')) === 'true',
      'a command is found by its name',
    )
    await press('?')
    await page.waitForSelector('text=Keys and gestures')
    await press('Escape')
    await press('f')
    check(
      !(await page
        .getByRole('navigation', { name: 'Stages' })
        .isVisible()
        .catch(() => false)),
      'F puts the panels away',
    )
    await press('Escape')
    await page.waitForSelector('nav[aria-label=Stages]')
    await press('Control+Shift+a')
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent === 'nothing selected')
    check((await selectedShare(page)) === 0, 'nothing is selected')
    // A box and an overlap without any pointer: Enter puts it in the middle, arrows move it, numbers shape it.
    await press('1')
    check(
      (await page.getByRole('button', { name: 'Rectangle', exact: true }).getAttribute('aria-pressed')) === 'true',
      '1 chooses the first finder by shape',
    )
    await press('Enter')
    near(await shareAfter(page, 0), 25, 0.1, 'a box in the middle')
    await press('Shift+ArrowRight', 'ArrowDown')
    check(
      (await page.locator('[data-step-card]').getByLabel('X', { exact: true }).inputValue()) === '1510 px',
      'moved by ten',
    )
    // A side by its handle: many presses, one act.
    const wide = () => page.locator('[data-step-card]').getByLabel('Width', { exact: true }).inputValue(),
      before = await wide()
    await page.locator('[data-grip="Stretch right"]').focus()
    await press('ArrowRight', 'ArrowRight', 'Shift+ArrowRight')
    check(Number.parseInt(await wide()) === Number.parseInt(before) + 12, `${before} is 12 px wider: ${await wide()}`)
    await press('Control+z')
    check((await wide()) === before, 'one step back takes all of them back')
    await page.getByRole('radio', { name: 'Keeps the overlap with what is selected' }).focus()
    await press('Enter')
    await page.locator('[data-canvas]').focus()
    await press('1', '1', '1', 'Enter') // on to the band, a third of the height in the middle
    near(await shareAfter(page, 25), (100 * 3000 * 1333) / 24e6, 0.2, 'and what it has in common with a band')
    await press('Control+Shift+a')

    // Arrow keys go through the tools by where they lie, and move nothing meanwhile.
    await page.getByRole('button', { name: 'Rectangle', exact: true }).focus()
    await press('ArrowRight', 'ArrowDown', 'ArrowLeft')
    const focused = () => page.evaluate(() => document.activeElement.textContent)
    check((await focused()) === 'Triangle', `right, down, left of Rectangle lies Triangle, not ${await focused()}`)
    await press('End')
    check((await focused()) === 'Water', 'End is the last tool')

    // A command's key is changed, taken from another command, and is the usual one again.
    await page.locator('[data-canvas]').focus()
    await press('?')
    await page.getByLabel('Search commands and keys').fill('select all')
    await page.getByRole('button', { name: /^Keys of Select all/ }).focus()
    await press('Enter')
    await page.getByLabel(/^New key of Select all/).waitFor()
    await press('Escape')
    await page.getByLabel(/^New key of Select all/).waitFor({ state: 'detached' })
    check(/^Keys of Select all/.test(await page.evaluate(() => document.activeElement.ariaLabel)), 'Escape gives it up')
    await press('Enter', 'k')
    await page.getByText('K is the key of “Save the selection”.').waitFor()
    await page.getByRole('button', { name: 'Take it from there' }).focus()
    await press('Enter')
    await page.getByRole('button', { name: 'Keys of Select all: K' }).waitFor()
    await press('Escape')
    await page.locator('[data-canvas]').focus()
    await press('k')
    near(await shareAfter(page, 0), 100, 0.01, 'the new key selects all')
    await page.reload()
    await page.waitForSelector('svg[data-view]')
    await page.locator('[data-canvas]').focus()
    await press('Control+Shift+a')
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent === 'nothing selected')
    await press('k')
    near(await shareAfter(page, 0), 100, 0.01, 'after a reload, too')
    await press('Control+Shift+a', '?')
    await page.getByRole('button', { name: 'All the usual keys again' }).focus()
    await press('Enter', 'Escape')
    await page.locator('[data-canvas]').focus()
    await press('Control+a')
    near(await shareAfter(page, 0), 100, 0.01, 'and the usual one again')
    await press('Control+Shift+a')

    // Acts faster than they can be sent all arrive.
    for (let i = 0; i < 40; i++) await press(i % 4 < 2 ? 'Control+z' : 'Control+Shift+z')
    await saved(page)
    // Every control has a name.
    const nameless = await page.evaluate(() =>
      [...document.querySelectorAll('button, input, [role=slider], [role=switch]')]
        .filter(
          (e) =>
            e.offsetParent &&
            !(
              e.getAttribute('aria-label') ||
              e.getAttribute('aria-labelledby') ||
              e.textContent.trim() ||
              e.labels?.length
            ),
        )
        .map((e) => e.outerHTML.slice(0, 120)),
    )
    check(nameless.length === 0, `controls without a name: ${nameless.join(' ')}`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
