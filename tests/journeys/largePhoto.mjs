/** The 24-megapixel photo: how long a person waits. Printed, not asserted (machines are noisy); what is asserted is that it works and that the page never freezes for long. */
import { openBrowser } from './browser.mjs'
import { at, check, chooseFinder, click, drag, openProject, shareAfter } from './hands.mjs'
import { markAfter, now, zoomStep } from './waits.mjs'

const DEMO = '00000000-0000-4000-8000-00000000a000'

export async function largePhoto(application) {
  const browser = await openBrowser()
  const { page } = browser
  const said = []
  try {
    await page.addInitScript(() => {
      window.longTasks = []
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) window.longTasks.push([entry.startTime, entry.duration])
      }).observe({ type: 'longtask', buffered: true })
    })
    await openProject(page, `${application.url}/project/${DEMO}`)
    said.push(
      `time to first view ${(await page.evaluate(() => performance.getEntriesByName('wily:picture')[0].startTime)).toFixed(0)} ms`,
    )
    await page.getByRole('radio', { name: 'Ants' }).click()
    const settled = await now(page)

    let started = await now(page)
    await click(page, 430, 1060)
    const outline = await markAfter(page, 'wily:overlay', started)
    await shareAfter(page, 0)
    said.push(`click to outline ${outline.toFixed(0)} ms (includes the click's own travel)`)
    await page.waitForSelector('text=/Selected area/')
    await page.waitForFunction(
      () =>
        !document.querySelector('figure .opacity-40') && !document.body.innerText.includes('measuring every tolerance'),
      null,
      { timeout: 60_000 },
    )
    said.push(`every tolerance measured after ${((await now(page)) - started).toFixed(0)} ms, in the background`)

    const ticks = []
    const thumb = await page.getByRole('slider', { name: 'Tolerance', exact: true }).boundingBox()
    const x = thumb.x + thumb.width / 2,
      y = thumb.y + thumb.height / 2
    await page.mouse.move(x, y)
    await page.mouse.down()
    for (let i = 1; i <= 10; i++) {
      await page.waitForTimeout(150)
      started = await now(page)
      await page.mouse.move(x + i * 2, y)
      ticks.push(await markAfter(page, 'wily:overlay', started))
    }
    await page.mouse.up()
    ticks.sort((a, b) => a - b)
    said.push(`tolerance tick to its outline: median ${ticks[5].toFixed(0)} ms, slowest ${ticks[9].toFixed(0)} ms`)

    const zooms = []
    await page.mouse.move(...(await at(page, 3000, 2000)))
    for (let i = 0; i < 8; i++) {
      zooms.push(await zoomStep(page, -240))
      await page.waitForTimeout(120)
    }
    zooms.sort((a, b) => a - b)
    said.push(`zoom step to a complete picture: median ${zooms[4].toFixed(0)} ms, slowest ${zooms[7].toFixed(0)} ms`)

    // A handle dragged for two seconds, as quickly as the browser draws: how long its frames took.
    await page.keyboard.press('0')
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 1500, 1000), await at(page, 3500, 2500), ['Shift'])
    await page.waitForTimeout(1500)
    const grip = await page.locator('[data-grip="Stretch lower right"]').boundingBox(),
      gx = grip.x + grip.width / 2,
      gy = grip.y + grip.height / 2
    await page.evaluate(() => {
      window.frames_ = []
      let last = performance.now()
      const tick = (t) => {
        window.frames_.push(t - last)
        last = t
        window.ticking = requestAnimationFrame(tick)
      }
      window.ticking = requestAnimationFrame(tick)
    })
    await page.mouse.move(gx, gy)
    await page.mouse.down()
    for (let i = 0; i < 100; i++) {
      await page.mouse.move(gx + 60 * Math.sin(i / 8), gy + 40 * Math.cos(i / 9))
      await page.waitForTimeout(10)
    }
    await page.mouse.up()
    const frames = (
      await page.evaluate(() => {
        cancelAnimationFrame(window.ticking)
        return window.frames_.slice(2)
      })
    ).sort((a, b) => a - b)
    said.push(
      `dragging a handle: frames p50 ${frames[frames.length >> 1].toFixed(0)} ms, p95 ${frames[Math.floor(frames.length * 0.95)].toFixed(0)} ms (${frames.length} frames, no GPU)`,
    )

    const tasks = (await page.evaluate(() => window.longTasks))
      .filter(([start]) => start > settled)
      .map(([, duration]) => duration)
    said.push(
      `main thread: ${tasks.length} tasks over 50 ms after opening, longest ${Math.max(0, ...tasks).toFixed(0)} ms`,
    )
    const memory = await page.evaluate(async () =>
      performance.memory ? performance.memory.usedJSHeapSize / 1048576 : 0,
    )
    said.push(`page heap ${memory.toFixed(0)} MB (pixels live in shared memory outside it)`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return said.join('\n')
  } finally {
    await browser.close()
    browser.forget()
  }
}
