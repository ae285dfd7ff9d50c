/** The woolly puppet from a rough box to a composite over the quay: its edge solved, mended in the picture and in the ribbon, fringe colours taken out. */
import { join } from 'node:path'
import sharp from 'sharp'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import {
  at,
  beginWith,
  check,
  chooseFinder,
  drag,
  dragTakenBack,
  exported,
  grey,
  matteByCommand,
  matteOf,
  near,
  pixels,
  recordsOf,
  shareAfter,
  stage,
  workOnMask,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')
/** What is soft in the truth, or near it. */
const isSoft = (v) => v > 5 && v < 250

export async function edge(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const id = await beginWith(page, application, otter),
      truth = await grey(join(root, 'tests/fixtures/otter-puppet-matte.png'))
    const errorOf = (matte) => {
      let sum = 0,
        n = 0
      for (let i = 0; i < truth.data.length; i++)
        if (isSoft(truth.data[i])) {
          sum += ((matte.data[i] - truth.data[i]) / 255) ** 2
          n++
        }
      return sum / n
    }
    await chooseFinder(page, 'Rough box')
    await drag(page, await at(page, 120, 4), await at(page, 1700, 1196))
    const boxed = await shareAfter(page, 0),
      rough = errorOf(await matteOf(page, application, id))

    // Kept, solved, compared.
    await stage(page, 'Edge')
    await page.getByRole('button', { name: 'Compare with this edge' }).click()
    await page.waitForSelector('[data-compare]')
    await page.getByRole('button', { name: 'Solve the edge' }).click()
    await shareAfter(page, boxed)
    const solvedMatte = await matteOf(page, application, id),
      solved = errorOf(solvedMatte)
    check(
      solved < 0.7 * rough,
      `in the soft band the solved edge is off by ${solved.toFixed(4)} (squared), the rough box by ${rough.toFixed(4)}`,
    )
    const [keptSoft, nowSoft] = await page
      .locator('[data-compare] tbody tr')
      .first()
      .locator('td')
      .allTextContents()
      .then((texts) => texts.map(parseFloat))
    check(nowSoft > 2 * keptSoft, `solved, more of the edge is soft (${keptSoft} → ${nowSoft} %)`)
    await page.getByRole('radio', { name: 'difference', exact: true }).click()
    await page.waitForTimeout(600)
    const hair = await at(page, 480, 165),
      shot = await pixels(await page.screenshot())
    let blue = 0
    for (let y = -40; y < 40; y++)
      for (let x = -40; x < 40; x++) {
        const o = ((Math.round(hair[1]) + y) * shot.width + Math.round(hair[0]) + x) * 4
        if (shot.data[o + 2] > shot.data[o] + 60) blue++
      }
    check(blue > 100, `what was added beside the head is marked (${blue} px)`)
    await page.getByRole('radio', { name: 'off', exact: true }).click()

    // The ribbon: as long as the boundary, doubtful spots one after another, each brought to the middle of the view.
    await page.waitForFunction(
      () =>
        Number(document.querySelector('[data-ribbon]').dataset.ribbon) > 3000 &&
        Number(document.querySelector('[data-ribbon]').dataset.doubts) > 1,
    )
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('.')
    await page.waitForFunction(() => /^1?\d+ of \d+/.test(document.querySelector('[data-doubt]').textContent))
    const first = await page.locator('[data-doubt]').textContent(),
      place = (await page.locator('[data-ribbon-place]').getAttribute('data-ribbon-place')).split(' ').map(Number)
    const canvas = await page.locator('[data-canvas]').boundingBox(),
      there = await at(page, ...place)
    near(there[0], canvas.x + canvas.width / 2, 3, 'the doubtful spot lies in the middle, across')
    near(there[1], canvas.y + canvas.height / 2, 3, 'the doubtful spot lies in the middle, down')
    await page.keyboard.press('.')
    await page.waitForFunction((before) => document.querySelector('[data-doubt]').textContent !== before, first)

    // A stroke drawn in the ribbon lands where the ribbon says, and changes the matte there and only there.
    await page.getByRole('radio', { name: 'drop', exact: true }).click()
    const ribbon = await page.locator('[data-surface=ribbon]').boundingBox()
    const placeAt = async (point) => {
      await page.mouse.move(point[0] - 1, point[1])
      await page.mouse.move(...point)
      await page.waitForTimeout(150)
      return (await page.locator('[data-ribbon-place]').getAttribute('data-ribbon-place')).split(' ').map(Number)
    }
    // Where there is something to drop.
    const covered = ([x, y]) => solvedMatte.data[Math.round(y) * 1800 + Math.round(x)] > 200
    let from, to, start
    for (const down of [70, 90, 50, 110, 30, 130]) {
      from = [ribbon.x + 260, ribbon.y + down]
      to = [ribbon.x + 300, ribbon.y + down]
      start = await placeAt(from)
      if (covered(start)) break
    }
    check(covered(start), 'the ribbon shows something that is selected')
    const end = await placeAt(to)
    await dragTakenBack(page, from, to, () => recordsOf(page, application, id), 'a stroke in the ribbon')
    await drag(page, from, to)
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=drop]').length === 1)
    await page.waitForSelector('[data-selected]:not([aria-busy=true])')
    const edgeStep = (await recordsOf(page, application, id)).selection.steps.find((step) => step.kind === 'edge'),
      [stroke] = edgeStep.strokes
    check(stroke.mode === 'drop', 'the stroke drops')
    near(
      Math.hypot(stroke.points[0][0] - start[0], stroke.points[0][1] - start[1]),
      0,
      4,
      'the stroke begins where the ribbon says',
    )
    near(Math.hypot(stroke.points.at(-1)[0] - end[0], stroke.points.at(-1)[1] - end[1]), 0, 4, 'and ends there')
    const dropped = await matteOf(page, application, id),
      [sx, sy] = stroke.points[0].map(Math.round)
    check(dropped.data[sy * 1800 + sx] === 0 && solvedMatte.data[sy * 1800 + sx] > 128, 'what was dropped is gone')
    let far = 0
    for (let i = 0; i < dropped.data.length; i++)
      if (
        dropped.data[i] !== solvedMatte.data[i] &&
        Math.min(...stroke.points.map(([x, y]) => Math.hypot((i % 1800) - x, Math.floor(i / 1800) - y))) > 80
      )
        far++
    check(far === 0, `${far} pixels far from the stroke changed`)
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=drop]').length === 0)

    // An unsure stroke on the picture is solved, too.
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('0')
    await page.getByRole('radio', { name: 'unsure', exact: true }).click()
    await page.waitForTimeout(400)
    await drag(page, await at(page, 420, 300), await at(page, 470, 240))
    await page.waitForFunction(() => document.querySelectorAll('[data-mark=unsure]').length === 1)
    await page.waitForSelector('[data-selected]:not([aria-busy=true])')
    const mended = errorOf(await matteByCommand(page, application, id, otter))
    check(
      mended < 1.05 * solved,
      `an unsure stroke over hair does no harm (${solved.toFixed(4)} → ${mended.toFixed(4)})`,
    )

    // Over the quay, with the colours of the old wall taken out and left in.
    await page
      .getByRole('button', { name: /^Make mask/ })
      .last()
      .click()
    await page.waitForSelector('text=Mask of otter puppet')
    await stage(page, 'Compose')
    await page.getByRole('button', { name: 'Add a layer' }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('menuitem', { name: /^Pictures below/ }).click()
    await (await chooser).setFiles(quay)
    await page.waitForSelector('[data-layer="lantern quay"]')
    const wanted = await trueComposite(truth)
    const offBy = async () => {
      const got = await pixels((await exported(page, /The composite/, 'PNG')).path)
      let sum = 0,
        n = 0
      for (let i = 0; i < truth.data.length; i++)
        if (isSoft(truth.data[i])) {
          for (let c = 0; c < 3; c++) sum += Math.abs(got.data[4 * i + c] - wanted[4 * i + c])
          n += 3
        }
      return sum / n
    }
    const taken = await offBy()
    await workOnMask(page, 'otter puppet')
    const amount = page.getByLabel('Taken out, typed', { exact: true })
    await amount.fill('0')
    await amount.press('Enter')
    const left = await offBy()
    check(
      (await recordsOf(page, application, id)).layers.find((layer) => layer.mask).mask.fringe === 0,
      'the amount is kept with the mask',
    )
    check(
      taken < left && taken < 25,
      `in the soft band the composite is off by ${taken.toFixed(1)} of 255 with fringe colours taken out, by ${left.toFixed(1)} with them left in`,
    )
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `soft band, squared error: rough box ${rough.toFixed(4)}, solved ${solved.toFixed(4)}, with a stroke ${mended.toFixed(4)}; composite off by ${taken.toFixed(1)} of 255 (fringe left in: ${left.toFixed(1)})`
  } finally {
    await browser.close()
    browser.forget()
  }
}

/** The subject's own colours, carried outwards from what is surely full by resizing (libvips weighs colours by alpha), over the quay with the true matte. */
async function trueComposite(truth) {
  const source = await pixels(otter),
    { width, height } = source
  for (let i = 0; i < truth.data.length; i++) source.data[4 * i + 3] = truth.data[i] === 255 ? 255 : 0
  const spread = await Promise.all(
    [2, 8, 32].map(async (by) => {
      const small = await sharp(source.data, { raw: { width, height, channels: 4 } })
        .resize(Math.round(width / by), Math.round(height / by), { fit: 'fill' })
        .png()
        .toBuffer()
      return sharp(small).resize(width, height, { fit: 'fill', kernel: 'linear' }).ensureAlpha().raw().toBuffer()
    }),
  )
  const behind = await sharp(quay).resize(width, height, { fit: 'fill' }).ensureAlpha().raw().toBuffer(),
    out = Buffer.alloc(width * height * 4)
  for (let i = 0; i < truth.data.length; i++) {
    const from = spread.find((level) => level[4 * i + 3] > 40) ?? spread.at(-1),
      t = truth.data[i] / 255
    for (let c = 0; c < 3; c++)
      out[4 * i + c] =
        (truth.data[i] === 255 ? source.data[4 * i + c] : from[4 * i + c]) * t + behind[4 * i + c] * (1 - t)
  }
  return out
}
