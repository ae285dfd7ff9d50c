/** The otter, and the sky over the quay, found by every finder that goes by objects; each result against the exact matte. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import {
  at,
  beginWith,
  check,
  chooseFinder,
  clearSteps,
  click,
  drag,
  grey,
  matteByCommand,
  matteOf,
  overlap,
  recordsOf,
  saved,
  shareAfter,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
const truthOf = (name) => grey(join(root, 'tests/fixtures', name))

/** Places on the outline of a matte: the outermost from its middle in so many directions. */
function rimOf({ width, height, data }, count) {
  let sum = 0,
    sumX = 0,
    sumY = 0
  data.forEach((v, i) => {
    sum += v
    sumX += v * (i % width)
    sumY += v * Math.floor(i / width)
  })
  return Array.from({ length: count }, (_, k) => {
    const [dx, dy] = [Math.cos((2 * Math.PI * k) / count), Math.sin((2 * Math.PI * k) / count)],
      last = [sumX / sum, sumY / sum]
    for (let r = 0; r < width; r++) {
      const x = sumX / sum + r * dx,
        y = sumY / sum + r * dy
      if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) break
      if (data[Math.floor(y) * width + Math.floor(x)] > 127) [last[0], last[1]] = [x, y]
    }
    return last
  })
}

export async function byObject(application) {
  const browser = await openBrowser()
  const { page } = browser
  const folder = mkdtempSync(join(tmpdir(), 'wily-object-'))
  try {
    const id = await beginWith(page, application, otter),
      truth = await truthOf('otter-puppet-matte.png'),
      said = []
    const against = async (name, least) => {
      const iou = overlap((await matteOf(page, application, id)).data, truth.data)
      check(iou >= least, `${name} and the truth overlap by ${iou.toFixed(4)}, at least ${least} wanted`)
      said.push(`${name} ${iou.toFixed(3)}`)
    }
    const shown = (words) =>
      page.waitForFunction(
        (text) => [...document.querySelectorAll('[data-note]')].some((note) => note.textContent.includes(text)),
        words,
      )

    await chooseFinder(page, 'Rough box')
    await drag(page, await at(page, 120, 4), await at(page, 1700, 1196))
    await shareAfter(page, 0)
    await against('rough box', 0.9)
    const boxed = await matteOf(page, application, id),
      byCommand = await matteByCommand(page, application, id, otter)
    check(
      byCommand.data.every((v, i) => Math.abs(v - boxed.data[i]) <= 1),
      'the command line finds the same',
    )

    // Corrected: a stroke where a paw is dropped takes that away and nothing else; taken back, everything is there again.
    const whole = await shareAfter(page, 0)
    await page.getByRole('button', { name: 'Correct with marks' }).click()
    await page.waitForSelector('[data-step="marks"]')
    await shareAfter(page, 0)
    await against('the same outline, to be corrected', 0.9)
    const unmarked = (await matteOf(page, application, id)).data
    await page.keyboard.down('Alt')
    await drag(page, await at(page, 560, 820), await at(page, 480, 790))
    await page.keyboard.up('Alt')
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=drop]').length === 1)
    const less = (await matteOf(page, application, id)).data
    const added = less.reduce((sum, v, i) => sum + (v > 127 && unmarked[i] <= 127 ? 1 : 0), 0)
    check(added < 0.001 * less.length, `a drop mark adds nothing: ${added} px`)
    check(less[820 * 1800 + 560] === 0 && unmarked[820 * 1800 + 560] === 255, 'what was marked is gone')
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() => !document.querySelector('[data-mark=drop]'))
    await page.keyboard.press('Control+z')
    await page.locator('[data-step="roughBox"] [aria-pressed]').click()
    await shareAfter(page, 0)
    await against('rough box again', 0.9)
    check(Math.abs((await shareAfter(page, 0)) - whole) < 0.2, 'the box is back')
    await chooseFinder(page, 'Rough box')
    // Taken as drawn it is the box; a box beyond the picture says why nothing was found.
    await page.getByRole('switch', { name: 'Find the thing inside' }).click()
    check((await shareAfter(page, 45)) > 80, 'as drawn it is the box')
    await clearSteps(page)
    await chooseFinder(page, 'Rough box')
    await drag(page, await at(page, -60, 300), await at(page, -20, 400))
    await shown('lies outside the picture')
    await clearSteps(page)

    await chooseFinder(page, 'Marks')
    await drag(page, await at(page, 900, 200), await at(page, 900, 1100))
    let share = await shareAfter(page, 0)
    await drag(page, await at(page, 560, 820), await at(page, 330, 700))
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=keep]').length === 2)
    await page.getByRole('radio', { name: 'drop', exact: true }).click()
    await drag(page, await at(page, 100, 150), await at(page, 300, 150))
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=drop]').length === 1)
    await saved(page)
    const marked = (await recordsOf(page, application, id)).selection.steps
    check(marked.length === 1 && marked[0].keep.length === 2 && marked[0].drop.length === 1, 'marks gather in one step')
    await against('marks', 0.88)
    await clearSteps(page)

    // It is often easier to spread over the background and say so.
    await chooseFinder(page, 'Spread')
    await drag(page, await at(page, 100, 300), await at(page, 120, 1000))
    share = await shareAfter(page, 0)
    await drag(page, await at(page, 1700, 200), await at(page, 1720, 1000))
    await shareAfter(page, share)
    await page.getByRole('switch', { name: 'What I picked is the background' }).click()
    await page.waitForTimeout(600)
    await against('spread over the wall', 0.85)
    await clearSteps(page)

    await chooseFinder(page, 'Subject')
    await page.getByRole('button', { name: 'Find the subject' }).click()
    await shareAfter(page, 0)
    await against('subject', 0.9)
    await clearSteps(page)

    // The region under the pointer shows before it is taken; Alt and the wheel make it coarser.
    await chooseFinder(page, 'Regions')
    const place = await at(page, 760, 850)
    await page.mouse.move(...place)
    await page.waitForSelector('[data-region] path')
    const outline = await page.locator('[data-region] path').first().getAttribute('d')
    await page.keyboard.down('Alt')
    for (let turn = 0; turn < 7; turn++) {
      await page.mouse.wheel(0, 120)
      await page.waitForTimeout(80)
    }
    await page.keyboard.up('Alt')
    await page.waitForFunction(
      (old) => document.querySelector('[data-region] path')?.getAttribute('d') !== old,
      outline,
    )
    await page.mouse.click(...place)
    share = await shareAfter(page, 0)
    await drag(page, await at(page, 640, 260), await at(page, 1150, 260), [], 20)
    check((await shareAfter(page, share)) > share, 'a drag takes the regions it crosses')
    // A right click shows what to make of them; nothing else is done to them.
    await page.mouse.click(...place, { button: 'right' })
    await page.getByRole('menuitem', { name: 'Save the selection' }).click()
    check((await recordsOf(page, application, id)).saved.length === 1, 'the regions were not saved from the menu')
    await page.mouse.click(...place, { button: 'right' })
    await page.getByRole('menuitem', { name: 'Lift a copy of what is selected' }).click()
    await page.waitForFunction(() => document.querySelectorAll('[data-layer]').length > 1)
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() => document.querySelectorAll('[data-layer]').length === 1)
    await page.getByRole('button', { name: 'Select', exact: true }).click()
    await clearSteps(page)

    // A wire around the snout's dark nose: a click starts, the wire clings, the ring closes.
    await chooseFinder(page, 'Live wire')
    await click(page, 880, 405)
    await page.mouse.move(...(await at(page, 985, 405)), { steps: 12 })
    await page.waitForSelector('[data-wire]')
    for (const [x, y] of [
      [985, 405],
      [930, 460],
    ]) {
      await page.mouse.move(...(await at(page, x, y)), { steps: 6 })
      await click(page, x, y)
    }
    await page.keyboard.press('Enter')
    share = await shareAfter(page, 0)
    // Finished, it is pinned where it is pressed, and pulled along.
    const pieces = page.getByLabel('Pin the wire here'),
      anchors = () => page.getByRole('button', { name: /^Anchor \d/ }).count()
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Pin the wire here"]').length === 3)
    const corners = (await pieces.first().getAttribute('points')).split(' '),
      [px, py] = corners[corners.length >> 1].split(',').map(Number),
      canvas = await page.locator('[data-canvas]').boundingBox(),
      pressed = [canvas.x + px, canvas.y + py]
    const before = await anchors()
    await drag(page, pressed, [pressed[0], pressed[1] - 30])
    check((await anchors()) === before + 1, `a press on the wire pins it: ${before} anchors, then ${await anchors()}`)
    await shareAfter(page, share)
    await page.keyboard.press('Control+z')
    check((await anchors()) === before, 'undo takes the pin out')
    await clearSteps(page)

    // A few anchors on the otter's outline: by edges the wire takes short cuts, along the object it is the otter.
    await chooseFinder(page, 'Live wire')
    for (const [x, y] of rimOf(truth, 9)) {
      await page.mouse.move(...(await at(page, x, y)), { steps: 3 })
      await click(page, x, y)
    }
    await page.keyboard.press('Enter')
    share = await shareAfter(page, 0)
    const byEdges = overlap((await matteOf(page, application, id)).data, truth.data)
    await page.getByRole('switch', { name: 'Follow the object' }).click()
    const followedShare = await shareAfter(page, share),
      followed = await matteOf(page, application, id),
      alongObject = overlap(followed.data, truth.data),
      told = await matteByCommand(page, application, id, otter)
    check(alongObject > byEdges + 0.02, `along the object ${alongObject.toFixed(3)}, by edges ${byEdges.toFixed(3)}`)
    check(
      told.data.every((v, i) => Math.abs(v - followed.data[i]) <= 1),
      'the command line follows the same object',
    )
    said.push(`wire ${byEdges.toFixed(3)}, along the object ${alongObject.toFixed(3)}`)
    await page.keyboard.press('Control+z')
    check((await shareAfter(page, followedShare)) === share, 'undo goes by edges again')
    await clearSteps(page)

    await chooseFinder(page, 'Edge band')
    for (const [x, y] of [
      [110, 690],
      [330, 610],
      [420, 760],
      [330, 880],
      [130, 860],
    ])
      await click(page, x, y)
    await page.keyboard.press('Enter')
    share = await shareAfter(page, 0)
    await page.getByLabel('Offset, typed').first().fill('-8')
    await page.keyboard.press('Enter')
    check((await shareAfter(page, share)) < share, 'the offset moves the edge in')
    await clearSteps(page)

    await chooseFinder(page, 'Edge paint')
    await drag(page, await at(page, 600, 300), await at(page, 620, 330))
    const painted = await shareAfter(page, 0)
    check(painted > 0 && painted < 1, `a short stroke covers a little: ${painted} %`)
    await clearSteps(page)
    await saved(page)

    // Of several things the card takes more than one with Shift, and one again without.
    await beginWith(page, application, await twoThings(folder))
    await chooseFinder(page, 'Subject')
    await page.getByRole('button', { name: 'Find the subject' }).click()
    const first = await shareAfter(page, 0)
    await page.getByRole('button', { name: 'Thing 2 of 2' }).click({ modifiers: ['Shift'] })
    const both = await shareAfter(page, first)
    await page.getByRole('button', { name: 'Thing 1 of 2' }).click({ modifiers: ['Shift'] })
    const second = await shareAfter(page, both)
    check(
      Math.abs(first - 11.2) < 0.3 && Math.abs(second - 6.9) < 0.3 && Math.abs(both - first - second) < 0.3,
      `the ellipse is 11.2 %, the box 6.9 %; selected were ${first}, ${second}, together ${both}`,
    )
    await page.getByRole('button', { name: 'Thing 2 of 2' }).click({ modifiers: ['Shift'] })
    await page.waitForTimeout(300)
    check((await page.locator('[data-selected]').textContent()).includes(`${second} %`), 'the last one was let go')
    await saved(page)

    const skyId = await beginWith(page, application, quay),
      skyTruth = await truthOf('lantern-quay-sky-matte.png')
    await chooseFinder(page, 'Sky')
    await page.getByRole('button', { name: 'Find the sky' }).click()
    await shareAfter(page, 0)
    await shown('% of the picture')
    const sky = overlap((await matteOf(page, application, skyId)).data, skyTruth.data)
    check(sky >= 0.96, `the sky and the truth overlap by ${sky.toFixed(4)}`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `overlap with the truth: ${said.join(', ')}, sky ${sky.toFixed(3)}`
  } finally {
    await browser.close()
    browser.forget()
    rmSync(folder, { recursive: true, force: true })
  }
}

/** An ellipse and a box with rounded corners, lit from the left, before a plain wall. */
async function twoThings(folder) {
  const lit = (id, light, dark) =>
      `<radialGradient id="${id}" cx=".35" cy=".3" r=".8"><stop offset="0" stop-color="${light}"/><stop offset="1" stop-color="${dark}"/></radialGradient>`,
    svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="800"><defs>${lit('a', '#ffb070', '#a02d10')}${lit('b', '#9fe08a', '#1d5a2a')}
      <linearGradient id="w" x2="0" y2="1"><stop offset="0" stop-color="#c9d3df"/><stop offset="1" stop-color="#8794a6"/></linearGradient></defs>
      <rect width="1200" height="800" fill="url(#w)"/><ellipse cx="380" cy="420" rx="190" ry="180" fill="url(#a)"/>
      <rect x="760" y="300" width="240" height="280" rx="40" fill="url(#b)"/></svg>`,
    file = join(folder, 'two-things.jpg')
  await sharp(Buffer.from(svg)).jpeg({ quality: 92 }).toFile(file)
  return file
}
