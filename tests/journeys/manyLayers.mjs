/** Twenty layers of 24 megapixels: how long a person waits. Printed, not asserted (machines are noisy). */
import { openBrowser } from './browser.mjs'
import { at, check, menuPath, openProject, saved, stage } from './hands.mjs'
import { markAfter, middle, now, zoomStep } from './waits.mjs'

const DEMO = '00000000-0000-4000-8000-00000000a000'

export async function manyLayers(application) {
  const browser = await openBrowser()
  const { page } = browser
  const said = []
  try {
    await openProject(page, `${application.url}/project/${DEMO}`)
    await stage(page, 'Compose')
    const slide = async (label, field) => {
      const thumb = await page.getByRole('slider', { name: label, exact: true }).boundingBox(),
        x = thumb.x + thumb.width / 2,
        y = thumb.y + thumb.height / 2,
        times = []
      await page.mouse.move(x, y)
      await page.mouse.down()
      for (let i = 1; i <= 9; i++) {
        await page.waitForTimeout(180)
        const started = await now(page)
        await page.mouse.move(x + (i % 2 ? 6 + i : 2 + i), y)
        times.push(await markAfter(page, 'wily:picture', started))
      }
      await page.mouse.up()
      said.push(`${field}: median ${middle(times).toFixed(0)} ms, slowest ${Math.max(...times).toFixed(0)} ms`)
    }
    await menuPath(page, 'Add a layer', 'Adjust light', 'Exposure')
    await page.waitForTimeout(600)
    await slide('Exposure', 'exposure over one layer at fit zoom, a move to the complete picture')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Delete')
    for (let i = 0; i < 19; i++) {
      await page.keyboard.press('Control+d')
      await page.waitForTimeout(60)
      await page.keyboard.press(i % 2 ? 'Shift+ArrowRight' : 'Shift+ArrowDown')
    }
    await saved(page)
    check(
      (await page.locator('[data-layer]').count()) === 20,
      `there are ${await page.locator('[data-layer]').count()} layers`,
    )
    await page.getByLabel(/is blended/).selectOption('soft-light')
    await page.waitForTimeout(1500)
    await menuPath(page, 'Add a layer', 'Adjust light', 'Exposure')
    await page.waitForTimeout(1500)
    await slide('Exposure', 'exposure over twenty layers')
    await menuPath(page, 'Add a layer', 'Adjust colour', 'Hue, saturation')
    await page.waitForTimeout(1500)
    await slide('Saturation', 'saturation over those')
    await menuPath(page, 'Add a layer', 'Effects', 'Soft blur')
    await page.waitForTimeout(1500)
    await slide('Radius', 'soft blur over those')

    await page.mouse.move(...(await at(page, 3000, 2000)))
    const zooms = []
    for (let i = 0; i < 6; i++) {
      zooms.push(await zoomStep(page, -240))
      await page.waitForTimeout(120)
    }
    said.push(
      `zoom step to a complete picture: median ${middle(zooms).toFixed(0)} ms, slowest ${Math.max(...zooms).toFixed(0)} ms, one by one ${zooms.map((ms) => ms.toFixed(0)).join(', ')}`,
    )
    // Panning for a second, as quickly as the browser draws.
    await page.evaluate(() => {
      window.frames2 = []
      let last = performance.now()
      const tick = () => {
        const t = performance.now()
        window.frames2.push(t - last)
        last = t
        if (window.frames2.length < 90) requestAnimationFrame(tick)
      }
      requestAnimationFrame(tick)
    })
    const [x, y] = await at(page, 3000, 2000)
    await page.mouse.move(x, y)
    await page.mouse.down({ button: 'middle' })
    for (let i = 0; i < 60; i++) {
      await page.mouse.move(x - i * 3, y - i * 2)
      await page.waitForTimeout(12)
    }
    await page.mouse.up({ button: 'middle' })
    await page.waitForFunction(() => window.frames2.length >= 90)
    const frames = (await page.evaluate(() => window.frames2)).sort((a, b) => a - b)
    said.push(`panning: frames of p50 ${frames[45].toFixed(0)} ms, p95 ${frames[85].toFixed(0)} ms`)
    // As it was: the demo is others' start.
    for (let i = 0; i < 60; i++) {
      await page.locator('[data-canvas]').focus()
      await page.keyboard.press('Control+z')
      if ((await page.getByRole('button', { name: 'Undo' }).getAttribute('aria-disabled')) === 'true') break
    }
    await saved(page)
    return said.join('\n')
  } finally {
    await browser.close()
  }
}
