/** The whole way: drop a photo, pick its backdrop, mask the subject, lay it over another picture, come back tomorrow, export. */
import { join } from 'node:path'
import sharp from 'sharp'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import {
  at,
  check,
  click,
  drag,
  dragGrip,
  drop,
  exported,
  grey,
  near,
  openProject,
  overlap,
  pictureComplete,
  pixels,
  saved,
  selectedShare,
  shareAfter,
  shareAtRest,
  typeInto,
} from './hands.mjs'

const photo = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg'),
  truthFile = join(root, 'tests/fixtures/otter-puppet-matte.png')

export async function cutOutAndCompose(application) {
  let browser = await openBrowser()
  let { page } = browser
  try {
    await page.goto(application.url)
    await page.waitForSelector('[data-project]')
    await drop(page, 'main', [photo])
    await page.waitForURL('**/project/*')
    const address = page.url(),
      id = address.split('/').pop()
    await page.waitForSelector('svg[data-view]')
    await pictureComplete(page)

    // Pick the wall, drag the tolerance and watch.
    await click(page, 130, 320)
    let share = await shareAfter(page, 0)
    check(share > 5 && share < 40, `the first pick selects part of the wall, not ${share} %`)
    const thumb = await page.getByRole('slider', { name: 'Tolerance', exact: true }).boundingBox()
    const seen = new Set()
    await page.mouse.move(thumb.x + thumb.width / 2, thumb.y + thumb.height / 2)
    await page.mouse.down()
    for (let i = 1; i <= 8; i++) {
      await page.mouse.move(thumb.x + thumb.width / 2 + i * 3, thumb.y + thumb.height / 2)
      await page.waitForTimeout(120)
      seen.add(await selectedShare(page))
    }
    await page.mouse.up()
    check(seen.size >= 4, `the share follows while the tolerance is dragged (${[...seen].join(', ')})`)
    await typeInto(page, 'Tolerance, typed', 34)
    share = await shareAfter(page, [...seen].at(-1)).catch(() => selectedShare(page))
    await page.waitForSelector('text=/spills at \\d+/', { timeout: 20_000 })

    // Shift-click what was missed: the other wall, then everything of that colour between the hairs.
    await click(page, 1660, 900, ['Shift'])
    const both = await shareAfter(page, share)
    check(both > share + 5, `the second pick adds the other wall (${share} → ${both} %)`)
    await click(page, 740, 20, ['Shift'])
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Steps, first to last"] > li').length === 3)
    await page.getByRole('switch', { name: 'Connected' }).click()
    await typeInto(page, 'Tolerance, typed', '20+8')
    await page.waitForFunction(() => document.body.innerText.includes('28 of 255'))
    await page.waitForTimeout(300)

    // A rectangle takes the face out of what was picked; drawn, then moved by its handle.
    const before = await shareAtRest(page)
    await page.keyboard.press('1')
    await drag(page, await at(page, 0, 0), await at(page, 120, 120), ['Alt'])
    const less = await shareAfter(page, before)
    near(before - less, (100 * 120 * 120) / (1800 * 1200), 0.15, 'a subtracted box takes its area off')
    await page.keyboard.press('Control+z')
    near(await shareAfter(page, less), before, 0.05, 'undo brings the area back')
    await drag(page, await at(page, 720, 250), await at(page, 1040, 520), ['Alt'])
    await dragGrip(page, 'Stretch lower right', await at(page, 1060, 540))
    await page.waitForTimeout(400)
    const box = await page.locator('[data-step-card=rectangle]').getByLabel('Width', { exact: true }).inputValue()
    near(parseFloat(box), 340, 4, 'the handle stretches the box')

    // What I picked is the background.
    const background = await selectedShare(page)
    await page.getByRole('switch', { name: 'What I picked is the background' }).click()
    near(await shareAfter(page, background), 100 - background, 0.2, 'the switch turns it round')
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await page.waitForSelector('text=Mask of otter puppet')
    check((await page.locator('[aria-label="Steps, first to last"] > li').count()) === 5, 'the mask has all five steps')

    // A second picture below; drag and scale the puppet over it.
    await page.getByRole('button', { name: 'Add a layer' }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('menuitem', { name: /^Pictures below/ }).click()
    await (await chooser).setFiles(quay)
    await page.waitForSelector('[data-layer="lantern quay"]')
    await page.waitForSelector('[data-grip="Scale otter puppet upper left"]')
    await drag(page, await at(page, 900, 700), await at(page, 960, 760))
    await page.waitForTimeout(300)
    const corner = await page.locator('[data-grip="Scale otter puppet upper left"]').boundingBox()
    await drag(page, [corner.x + corner.width / 2, corner.y + corner.height / 2], await at(page, 500, 320))
    await saved(page)
    await page.waitForTimeout(2500) // the view settles and the cover is sent
    await page.waitForFunction(() => !document.querySelector('footer [role=status]').textContent.trim()) // and nothing is under way
    const records = await (await fetch(`${application.url}/api/projects/${id}`)).json()
    const shot = await page.locator('[data-surface=picture]').screenshot()

    // Tomorrow.
    await browser.close()
    browser = await openBrowser(browser.profile)
    page = browser.page
    await page.goto(application.url)
    await page.waitForSelector(`a[href="/project/${id}"] img`)
    await openProject(page, address)
    const again = await (await fetch(`${application.url}/api/projects/${id}`)).json()
    check(
      JSON.stringify(again.records) === JSON.stringify(records.records) && again.head === records.head,
      'the records are as they were',
    )
    await page.waitForSelector('text=Mask of otter puppet')
    await page.getByRole('button', { name: 'Compose', exact: true }).click()
    // The mask is made anew, then the colours of the old wall are taken out: the picture comes to be as it was.
    const was = await pixels(shot)
    let different = Infinity
    for (const until = Date.now() + 20_000; different / (was.data.length / 4) >= 0.002 && Date.now() < until;) {
      await page.waitForTimeout(500)
      const after = await pixels(await page.locator('[data-surface=picture]').screenshot())
      different = 0
      for (let i = 0; i < was.data.length; i += 4) if (Math.abs(was.data[i] - after.data[i]) > 24) different++
    }
    check(different / (was.data.length / 4) < 0.002, `the picture is as it was (${different} pixels differ)`)

    // Every step is still editable.
    await page.getByRole('button', { name: 'Select', exact: true }).click()
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent.includes('%'))
    await page
      .locator('[aria-label="Steps, first to last"] > li')
      .nth(0)
      .getByRole('button', { name: /^Similar/ })
      .click()
    const shown = await selectedShare(page)
    await typeInto(page, 'Tolerance, typed', 3)
    await page.waitForTimeout(1200)
    check((await page.getByLabel('Tolerance, typed').inputValue()) === '3', 'the first step takes a new tolerance')
    await page.keyboard.press('Escape')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+z')
    await page.waitForTimeout(800)
    near(await selectedShare(page), shown, 0.05, 'undo brings the first tolerance back')
    await saved(page)

    // Export both and compare with the truth.
    const composite = await exported(page, /The composite/, 'JPEG')
    check(/\.jpg$/.test(composite.name), `the composite is a JPEG (${composite.name})`)
    const cut = await exported(page, /cut out/, 'PNG')
    const truth = await grey(truthFile)
    const got = await pixels(cut.path)
    check(
      got.width === 1800 && got.height === 1200,
      `the cut-out has the photo's size, not ${got.width} × ${got.height}`,
    )
    const alpha = Uint8Array.from({ length: truth.data.length }, (_, i) => got.data[i * 4 + 3])
    const iou = overlap(alpha, truth.data)
    check(iou >= 0.97, `the cut-out's alpha overlaps the truth by ${iou.toFixed(4)}`)
    const source = await pixels(photo)
    let sure = 0,
      same = 0
    for (let i = 0; i < alpha.length; i++)
      if (alpha[i] === 255 && truth.data[i] === 255) {
        sure++
        if (Math.abs(got.data[i * 4] - source.data[i * 4]) <= 1) same++
      }
    check(same / sure > 0.999, 'inside, the cut-out has the photo’s own pixels')

    const placed = again.records.layers.find((layer) => layer.mask).placement
    const expected = await expectedComposite(truth, source, placed)
    const made = await pixels(composite.path)
    check(made.width === 1800 && made.height === 1200, 'the composite has the canvas’s size')
    let sum = 0
    for (let i = 0; i < expected.length; i += 4)
      for (let c = 0; c < 3; c++) sum += Math.abs(expected[i + c] - made.data[i + c])
    const mean = sum / (expected.length * 0.75)
    check(mean < 3, `the composite is the true one within ${mean.toFixed(2)} of 255 on average`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `alpha overlaps truth ${iou.toFixed(4)}, composite off by ${mean.toFixed(2)} of 255 on average`
  } finally {
    await browser.close()
    browser.forget()
  }
}

/** The photo with its true matte, placed over the quay by libvips. */
async function expectedComposite(truth, source, [a, , , d, e, f]) {
  const cut = Buffer.from(source.data)
  for (let i = 0; i < truth.data.length; i++) cut[i * 4 + 3] = truth.data[i]
  const width = Math.round(1800 * a),
    height = Math.round(1200 * d)
  const scaled = await sharp(cut, { raw: { width: 1800, height: 1200, channels: 4 } })
    .resize(width, height, { fit: 'fill', kernel: 'cubic' })
    .png()
    .toBuffer()
  const left = Math.round(e),
    top = Math.round(f)
  const visible = await sharp(scaled)
    .extract({
      left: Math.max(0, -left),
      top: Math.max(0, -top),
      width: Math.min(width - Math.max(0, -left), 1800 - Math.max(0, left)),
      height: Math.min(height - Math.max(0, -top), 1200 - Math.max(0, top)),
    })
    .toBuffer()
  return sharp(quay)
    .ensureAlpha()
    .composite([{ input: visible, left: Math.max(0, left), top: Math.max(0, top) }])
    .raw()
    .toBuffer()
}
