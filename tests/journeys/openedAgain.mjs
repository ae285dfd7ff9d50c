/** A photo with a solved edge (of 24 megapixels where figures are wanted), opened again: the masked picture is there without anything being solved anew, and the screen is the same to the bit. */
import { join } from 'node:path'
import sharp from 'sharp'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import { at, beginWith, check, chooseFinder, drag, saved, shareAfter, stage } from './hands.mjs'

/** What is on the canvas once it is final, as raw pixels. */
async function shownPixels(page) {
  await page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
  const url = await page.evaluate(() => document.querySelector('canvas[data-final]').toDataURL('image/png'))
  return sharp(Buffer.from(url.split(',')[1], 'base64'))
    .ensureAlpha()
    .raw()
    .toBuffer()
}
/** In the page: what one place of the picture's background has shown since the cover stood there, by colour. */
function watchBackground() {
  window.shownThere = []
  setInterval(() => {
    const canvas = document.querySelector('[data-surface=picture]')
    if (!canvas?.width || !performance.getEntriesByName('wily:cover').length) return
    const at = [60, 160].map((v) => v * devicePixelRatio),
      colour = [...canvas.getContext('2d').getImageData(...at, 1, 1).data].slice(0, 3).join()
    if (window.shownThere.at(-1) !== colour) window.shownThere.push(colour)
  }, 20)
}
export async function openedAgain(application, { measure }) {
  const photo = join(root, `demo/pictures/otter-puppet${measure ? '-24mp' : ''}.jpg`),
    scale = measure ? 1 : 0.3
  const browser = await openBrowser()
  const { page } = browser
  const results = async (id) => (await (await fetch(`${application.url}/api/projects/${id}/results`)).json()).results
  try {
    const id = await beginWith(page, application, photo)
    await chooseFinder(page, 'Rough box')
    await drag(page, await at(page, 420 * scale, 20 * scale), await at(page, 5600 * scale, 3960 * scale))
    const boxed = await shareAfter(page, 0)
    await stage(page, 'Edge')
    await page.getByRole('button', { name: 'Solve the edge' }).click()
    await shareAfter(page, boxed)
    await page.getByRole('button', { name: /^Make mask/ }).click()
    await stage(page, 'Compose')
    await saved(page)
    // Moved away from the canvas, so that nothing is hovered.
    await page.mouse.move(640, 790)
    // The box may have been found too quickly to be worth storing; the edge takes longer.
    const ofEdge = (list) => list.some(({ version }) => /^edge [1-9]/.test(version))
    let kept = []
    for (let i = 0, before = -1; i < 60 && !(ofEdge(kept) && kept.length === before); i++) {
      before = kept.length
      await page.waitForTimeout(1000)
      kept = await results(id)
    }
    check(ofEdge(kept), `the edge is not stored: ${JSON.stringify(kept)}`)
    const before = await shownPixels(page)

    // Another browser altogether: nothing is remembered there.
    const other = await openBrowser()
    await other.page.addInitScript(watchBackground)
    // A browser's own beginning is none of the project's.
    if (measure) await other.page.waitForTimeout(2000)
    // The picture is there before its mask: then it could show whole.
    if (!measure)
      await other.context.route('**/results/*', async (route) => {
        await new Promise((later) => setTimeout(later, 2500))
        await route.continue()
      })
    let first, final, cover
    const asked = []
    other.page.on('request', (request) => {
      if (request.url().includes('/api/pictures/')) asked.push(request.url())
    })
    try {
      const started = Date.now()
      await other.page.goto(page.url(), { waitUntil: 'commit' })
      await other.page.waitForFunction(() => performance.getEntriesByName('wily:picture').length > 0)
      first = Date.now() - started
      await other.page.waitForSelector('canvas[data-final=yes]', { state: 'attached', timeout: 120_000 })
      final = Date.now() - started
      cover = await other.page.evaluate(() => performance.getEntriesByName('wily:cover').at(-1)?.startTime)
      check(cover > 0, 'no cover stood in until the picture had its mask')
      const there = await other.page.evaluate(() => window.shownThere)
      check(
        there.length > 0 && there.every((colour) => ['255,255,255', '207,207,207'].includes(colour)),
        `the background that is masked away was shown: ${there.join(' then ')}`,
      )
      await other.page.waitForTimeout(1500)
      await stage(other.page, 'Compose')
      await other.page.mouse.move(640, 790)
      await other.page.waitForTimeout(500)
      const after = await shownPixels(other.page)
      check(
        asked.length === new Set(asked).size && asked.length > 0,
        `each picture is opened once: ${asked.join(', ')}`,
      )
      check(before.length === after.length, 'the canvas has another size')
      let unlike = 0
      for (let i = 0; i < before.length; i++) if (before[i] !== after[i]) unlike++
      check(unlike === 0, `${unlike} values on the canvas differ after opening again`)
      const later = await results(id)
      check(later.length === kept.length, `something was found anew: ${JSON.stringify([kept, later])}`)
    } finally {
      await other.close()
    }
    // What an earlier version of the edge made stays, is told, and is found anew when asked for.
    application.sql(`update result set version = 'edge 0,roughBox 1' where project = '${id}' and version like 'edge%'`)
    await page.reload()
    await page.waitForSelector('text=This was found by an earlier version', { timeout: 60_000 })
    check(
      (await results(id)).some(({ version }) => version.startsWith('edge 0')),
      'the older result was not left as it was',
    )
    await page.getByRole('button', { name: 'Find it again' }).click()
    await page.waitForSelector('text=This was found by an earlier version', { state: 'detached', timeout: 60_000 })
    for (let i = 0; i < 60 && !ofEdge(await results(id)); i++) await page.waitForTimeout(500)
    check(ofEdge(await results(id)), 'the newer result was not kept')

    // Nothing else gets in there.
    const put = (project, name, body, version = 'edge 2') =>
      fetch(`${application.url}/api/projects/${project}/results/${name}`, {
        method: 'PUT',
        body,
        headers: { 'x-version': version },
      }).then(({ status }) => status)
    const png = await sharp(Buffer.alloc(16), { raw: { width: 4, height: 4, channels: 1 } })
        .toColourspace('b-w')
        .png()
        .toBuffer(),
      name = 'e'.repeat(64)
    check((await put(id, name, 'no picture')) === 422, 'text was kept as a result')
    check(
      (await put(
        id,
        name,
        await sharp({ create: { width: 4, height: 4, channels: 3, background: '#aa4422' } })
          .png()
          .toBuffer(),
      )) === 422,
      'a coloured picture was kept',
    )
    check((await put(id, 'name', png)) === 404, 'a result of any name was kept')
    check((await put('00000000-0000-4000-8000-0000000000ff', name, png)) === 404, 'a result of no project was kept')
    check((await put(id, name, png, '')) === 422, 'a result of no version was kept')
    check((await put(id, name, png)) === 200, 'a grey picture was refused')
    return `masked ${measure ? 24 : 2}-megapixel picture opened again: cover ${cover?.toFixed(0) ?? 'not needed'}, masked picture ${first} ms, with fringe colours ${final} ms`
  } finally {
    await browser.close()
  }
}
