/** What a tick of a slider costs in the page, from the hand to the request, in a small project and in a large one. */
import { join } from 'node:path'
import { readFileSync } from 'node:fs'
import { root } from './application.mjs'
import { makeProject, pictureLayer, recordsWith, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, openProject } from './hands.mjs'

const TICKS = 60
const SIZE = { width: 1800, height: 1200 }
function project(application, asset, steps, layers, strokes) {
  const ellipses = Array.from({ length: steps - 1 }, (_, i) => ({
    kind: 'ellipse',
    id: `s${i}`,
    x: (i * 37) % 1500,
    y: (i * 53) % 900,
    width: 90,
    height: 70,
  }))
  const painted = Array.from({ length: strokes }, (_, i) => ({
    points: Array.from({ length: 20 }, (_, k) => [(i * 7 + k) % 1800, (i * 11 + k * 3) % 1200]),
    size: 6,
  }))
  const fills = Array.from({ length: layers - 1 }, (_, i) =>
    pictureLayer(`l${i}`, undefined, SIZE, {
      kind: 'fill',
      fill: { kind: 'colour', colour: '#aa4422' },
      opacity: 0.01,
    }),
  )
  const paint = strokes ? [{ kind: 'paint', id: 'paint', hidden: true, strokes: painted }] : []
  return makeProject(
    application,
    recordsWith([pictureLayer('first', asset, SIZE), ...fills], SIZE, {
      selection: { version: 1, steps: [...ellipses, ...paint, { kind: 'feather', id: 'last', radius: 2 }] },
    }),
  )
}

export async function tick(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const asset = await storePicture(application, readFileSync(join(root, 'demo/pictures/otter-puppet.jpg')))
    const said = []
    const medians = {}
    for (const [name, ...size] of [
      ['small', 3, 1, 0],
      ['large', 300, 100, 2000],
    ]) {
      const id = await project(application, asset, ...size)
      await openProject(page, `${application.url}/project/${id}`)
      await page.waitForTimeout(2500)
      for (const what of ['step', 'layer']) {
        const times = await page.evaluate(
          async ([what, ticks]) => {
            const page = globalThis.wilyScissor,
              times = []
            for (let i = 0; i < ticks; i++) {
              const began = performance.now()
              page.preview((draft) => {
                if (what === 'step') draft.selection.steps.at(-1).radius = 2 + (i % 20) / 10
                else draft.layers[0].opacity = 1 - (i % 20) / 100
              })
              times.push(performance.now() - began)
              await new Promise((resolve) => requestAnimationFrame(resolve))
            }
            page.abandon()
            return times
          },
          [what, TICKS],
        )
        times.sort((a, b) => a - b)
        medians[`${name} ${what}`] = times[TICKS >> 1]
        said.push(
          `${name}, a ${what}: median ${times[TICKS >> 1].toFixed(2)} ms, slowest tenth ${times[Math.floor(TICKS * 0.9)].toFixed(2)} ms`,
        )
        await page.waitForTimeout(1500)
      }
    }
    said.push(
      `ratio: step ${(medians['large step'] / medians['small step']).toFixed(2)}, layer ${(medians['large layer'] / medians['small layer']).toFixed(2)}`,
    )
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return said.join('\n')
  } finally {
    await browser.close()
    browser.forget()
  }
}
