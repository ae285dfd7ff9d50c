/** One thing is worked on, and list, inspector, handles, keys and status line agree on it; what the next use does; Escape takes back, arrow keys move what is reached by Tab. */
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  at,
  beginWith,
  check,
  chooseFinder,
  click,
  drag,
  dragTakenBack,
  near,
  recordsOf,
  saved,
  shareAfter,
  stage,
  workOnLayer,
  workOnSelection,
} from './hands.mjs'

export async function oneFocus(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, join(root, 'demo/pictures/otter-puppet.jpg'))
    const records = () => recordsOf(page, application, id),
      steps = async () => (await records()).selection.steps
    const focus = async (wanted) => {
      await page.waitForFunction((text) => document.querySelector('[data-focus]').textContent === text, wanted)
      const head = await page.locator('[aria-label=Inspector] h2').textContent()
      check(
        head.toLowerCase().includes(
          wanted
            .split(' · ')
            .at(-1)
            .replace(/^layer /, '')
            .toLowerCase(),
        ),
        `the inspector is headed ${head}, the status line says ${wanted}`,
      )
    }
    const next = (wanted) =>
      page.locator(`[aria-label="What the next use does"] [aria-checked=true][aria-label^="${wanted}"]`).waitFor()

    // The next use replaces, with keys it adds; undo goes back step by step.
    await focus('selection')
    await chooseFinder(page, 'Rectangle')
    await next('Replaces')
    const box = async (x, y, keys = []) => drag(page, await at(page, x, y), await at(page, x + 200, y + 150), keys)
    await box(100, 100)
    await shareAfter(page, 0)
    await focus('selection · Rectangle')
    await box(700, 300, ['Shift'])
    await page.waitForTimeout(400)
    check((await steps()).length === 2, 'Shift adds a step')
    await box(1300, 800)
    await page.waitForTimeout(400)
    let now = await steps()
    check(now.length === 1 && Math.abs(now[0].x - 1300) < 3, `a plain use replaces all there was: ${now.length} steps`)
    await page.keyboard.press('Control+z')
    await saved(page)
    check((await steps()).length === 2, 'and undo brings both back')

    // Pressed inside, the open box moves: the other one stays.
    await drag(page, await at(page, 800, 370), await at(page, 850, 370), ['Control'])
    await page.waitForTimeout(400)
    now = await steps()
    check(now.length === 2 && Math.abs(now[1].x - 750) < 3, `the open box moved by itself: ${now.map((s) => s.x)}`)
    // A further region goes on with those there are, beside what was selected before.
    await chooseFinder(page, 'Regions')
    await click(page, 760, 850, ['Shift'])
    await page.waitForTimeout(1500)
    await click(page, 130, 320)
    await page.waitForTimeout(1500)
    now = await steps()
    check(now.length === 3 && now[2].at.length === 2, `two regions beside two boxes: ${now.map((s) => s.kind)}`)
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await page.waitForTimeout(400)

    // Escape takes a drag back, and an outline with all of its corners.
    const before = JSON.stringify(await steps())
    await page.mouse.move(...(await at(page, 300, 700)))
    await page.mouse.down()
    await page.mouse.move(...(await at(page, 500, 900)), { steps: 5 })
    await page.keyboard.press('Escape')
    await page.mouse.move(...(await at(page, 600, 950)), { steps: 3 })
    await page.mouse.up()
    await page.waitForTimeout(300)
    check(JSON.stringify(await steps()) === before, 'the box that was being drawn is not there')
    await chooseFinder(page, 'Corners')
    for (const [x, y] of [
      [300, 300],
      [500, 320],
      [480, 500],
    ]) {
      await click(page, x, y)
      await page.waitForTimeout(120)
    }
    await page.keyboard.press('Escape')
    await page.waitForTimeout(300)
    check(
      JSON.stringify(await steps()) === before,
      'the outline that was being drawn is not there, and what it replaced is',
    )
    // One that is given up too soon, too: by Enter, by Backspace, by taking another tool.
    for (const finder of ['Corners', 'Live wire', 'Bézier'])
      for (const ending of ['Enter', 'Backspace', 'another tool']) {
        await chooseFinder(page, finder)
        await click(page, 330, 330)
        await page.waitForTimeout(120)
        check(JSON.stringify(await steps()) !== before, `${finder} began an outline`)
        if (ending === 'another tool') await chooseFinder(page, 'Ellipse')
        else await page.keyboard.press(ending)
        await page.waitForTimeout(200)
        check(
          JSON.stringify(await steps()) === before,
          `${finder}, one point, then ${ending}: what it replaced is there`,
        )
      }
    // What was done elsewhere meanwhile stays.
    await chooseFinder(page, 'Corners')
    await click(page, 330, 330)
    await page.getByRole('button', { name: 'Hide otter puppet' }).click()
    await page.waitForTimeout(200)
    await chooseFinder(page, 'Ellipse')
    await page.waitForTimeout(200)
    check(JSON.stringify(await steps()) === before, 'the outline is given up')
    await page.getByRole('button', { name: 'Show otter puppet' }).click()
    await page.waitForTimeout(200)
    // A path that was left open is gone on with: Escape takes that back, and nothing from before.
    await chooseFinder(page, 'Bézier')
    for (const [x, y] of [[300, 300], [420, 310]]) await click(page, x, y) // prettier-ignore
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Open path' }).click()
    await page.waitForTimeout(200)
    const left = JSON.stringify(await steps())
    await click(page, 430, 420)
    await page.waitForTimeout(200)
    check(JSON.stringify(await steps()) !== left, 'the open path was gone on with')
    await page.keyboard.press('Escape')
    await page.waitForTimeout(200)
    check(JSON.stringify(await steps()) === left, 'Escape took one point back, and left the path')
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z')
    await page.waitForTimeout(300)
    check(JSON.stringify(await steps()) === before, 'undone, everything is as before the path')
    await chooseFinder(page, 'Corners')
    // Ctrl+Z while drawing takes the last corner back.
    await click(page, 300, 300, ['Shift'])
    await page.waitForTimeout(120)
    await click(page, 500, 320)
    await page.waitForTimeout(120)
    await click(page, 480, 500)
    await page.keyboard.press('Control+z')
    await page.waitForTimeout(300)
    check((await steps()).at(-1).points.length === 2, 'one corner fewer')
    await page.keyboard.press('Escape')

    // A handle: taken back by Escape, reached by the keyboard.
    await page.locator('[data-step=rectangle]').last().getByRole('button').first().click()
    await focus('selection · Rectangle')
    const grip = page
      .locator('svg[data-view] [data-grip="Move the right side"], svg[data-view] [data-grip*="right"]')
      .first()
    const held = JSON.stringify(await steps()),
      { x, y, width, height } = await grip.boundingBox()
    await page.mouse.move(x + width / 2, y + height / 2)
    await page.mouse.down()
    await page.mouse.move(x + 60, y + 30, { steps: 4 })
    await page.keyboard.press('Escape')
    await page.mouse.up()
    await page.waitForTimeout(300)
    check(JSON.stringify(await steps()) === held, 'the handle is where it was')
    await grip.focus()
    check(/, \d+, \d+$/.test(await grip.getAttribute('aria-label')), 'the handle says where it is')
    const wide = (await steps()).at(-1).width
    await page.keyboard.press('ArrowRight')
    await page.waitForTimeout(300)
    near((await steps()).at(-1).width, wide + 1, 0.01, 'an arrow key moves it by one px')

    // A stroke that takes away, then a plain one: it adds, in a step of its own.
    await chooseFinder(page, 'Paint')
    await next('Adds')
    const stroke = async (y, keys = []) => drag(page, await at(page, 200, y), await at(page, 900, y), keys)
    await stroke(1000)
    await stroke(1040, ['Alt'])
    await stroke(1100)
    await stroke(1130)
    await page.waitForTimeout(400)
    const painted = (await steps()).filter(({ kind }) => kind === 'paint')
    check(
      painted.map(({ op }) => op).join() === 'add,subtract,add' && painted[2].strokes.length === 2,
      `strokes: ${painted.map(({ op, strokes }) => `${op} ${strokes.length}`)}`,
    )

    // The mask, its layer, the selection: one after the other.
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await page.locator('[data-mask-sign]').waitFor()
    await workOnLayer(page, 'otter puppet')
    await focus('layer otter puppet')
    await page.locator('[data-mask-sign]').waitFor({ state: 'detached' })
    await page.keyboard.press('Delete')
    await page.waitForFunction(() => document.querySelectorAll('[data-layer]').length === 0)
    await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
    await page.waitForFunction(() => document.querySelectorAll('[data-layer]').length === 1)
    await workOnSelection(page)
    await focus('selection')
    await page.keyboard.press('Delete')
    await page.waitForTimeout(200)
    check((await records()).layers.length === 1, 'Delete takes nothing where nothing that can go is worked on')

    // The edge, seen across: its middle is dragged, and moves it.
    await page.getByRole('button', { name: 'Mask of otter puppet', exact: true }).click()
    await stage(page, 'Edge')
    await page.getByRole('button', { name: 'Solve the edge' }).click()
    await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
    await page.waitForTimeout(1500)
    await focus('mask of otter puppet · Edge')
    const middle = await page.locator('[data-across="Middle of the edge"]').boundingBox(),
      from = [middle.x + middle.width / 2, middle.y + middle.height / 2]
    await dragTakenBack(page, from, [from[0] + 24, from[1]], records, 'a point of the edge')
    await drag(page, from, [from[0] + 24, from[1]])
    const edge = (await records()).layers[0].mask.recipe.steps.find(({ kind }) => kind === 'edge')
    check(edge.offset > 0.5, `the edge is moved out by ${edge.offset} px`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return ''
  } finally {
    await browser.close()
    browser.forget()
  }
}
