/** A dull quay under another sky: measured, skies dropped and ranked, replaced, its light changed, exchanged, dragged, undone; the library kept; the page, the export and the command line show the same. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  at,
  beginWith,
  check,
  chooseFinder,
  composite,
  drag,
  dragTakenBack,
  fromLinear,
  drop,
  near,
  pixelAt,
  pixels,
  recordsOf,
  same,
  saved,
  shareAfter,
  skiesRanked,
  stage,
  toLinear,
  typeInto,
  wily,
} from './hands.mjs'

const picture = (name) => join(root, 'demo/pictures', name)
const SKY = [150, 75],
  LAND = [660, 330]
/** The row from which on there is only water. */
const WATER = 412

export async function newSky(application) {
  const browser = await openBrowser(),
    { page } = browser,
    folder = mkdtempSync(join(tmpdir(), 'wily-sky-'))
  try {
    // Half the size: what takes time here grows with it.
    const quay = join(folder, 'lantern-quay.png')
    await sharp(picture('lantern-quay.jpg')).resize(900, 600).png().toFile(quay)
    const id = await beginWith(page, application, quay)
    const before = await pixels(quay)
    await stage(page, 'Match')
    const measured = page.getByRole('region', { name: 'Measured in this photo' })
    await measured.getByText('levels').waitFor({ timeout: 60_000 })
    const words = await measured.innerText()
    check(/Light from\s+everywhere/.test(words), `under an overcast sky light comes from everywhere: ${words}`)

    // Skies of the library are ranked by fit; others come by drop.
    const options = page.getByRole('listbox', { name: /^Skies/ }).getByRole('option'),
      skyOf = (name) => page.getByRole('option', { name: new RegExp(`^${name}, fits`) })
    await skiesRanked(page)
    const scores = await options.evaluateAll((cards) =>
      cards.map((card) => Number(/fits (\d+)/.exec(card.getAttribute('aria-label'))[1])),
    )
    check(scores.join() === scores.toSorted((a, b) => b - a).join(), `the best fit comes first: ${scores}`)
    await drop(page, 'section[aria-label=Skies]', [
      picture('sky-amber.jpg'),
      picture('sky-morning.jpg'),
      picture('puppet-stage.jpg'),
    ])
    await page.getByText('It is no picture of a sky').waitFor({ timeout: 60_000 })
    await skyOf('sky amber').waitFor({ timeout: 60_000 })
    await skyOf('sky morning').waitFor({ timeout: 60_000 })
    check((await options.count()) === scores.length + 2, 'what is no sky is not in the library')
    const bring = (name) => skyOf(name).click()
    const records = async () => {
      await saved(page)
      return (await recordsOf(page, application, id)).layers
    }
    await bring('sky amber')
    await page.getByRole('region', { name: 'Light on the land' }).waitFor({ timeout: 60_000 })
    const layers = await records(),
      group = layers.find((layer) => layer.kind === 'group')
    const names = layers.filter((layer) => layer.parent === group?.id).map((layer) => layer.name)
    check(
      names.filter((name) => name !== 'Grain of the photo').join() === 'sky amber,Land,Light on the land,Haze',
      `the new sky is a group of ordinary layers: ${names}`,
    )
    const amber = await composite(page)
    check(
      pixelAt(amber, ...SKY).some((v, c) => Math.abs(v - pixelAt(before, ...SKY)[c]) > 30),
      'the sky is another',
    )
    const warmth = ([red, , blue]) => red - blue
    check(
      warmth(pixelAt(amber, ...LAND)) > warmth(pixelAt(before, ...LAND)) + 5,
      'the land is warmer under an amber sky',
    )

    // The command line makes the same of the same pictures.
    const byCommand = async (shown, more) => {
      const out = join(folder, 'quay.png')
      await wily('replaceSky', quay, '--sky', picture('sky-amber.jpg'), '--out', out, ...more)
      const alone = await pixels(out)
      let apart = 0
      for (let i = 0; i < alone.data.length; i++) apart = Math.max(apart, Math.abs(alone.data[i] - shown.data[i]))
      check(apart <= 1, `page's export and command line differ by ${apart}`)
    }
    await byCommand(amber, [])

    // Nothing is selected: the water is what is found to look like it.
    await stage(page, 'Match')
    await page.getByRole('button', { name: 'Sky in the water', exact: true }).click()
    await page.getByRole('slider', { name: 'Ripple' }).waitFor()
    const found = (await records()).find((layer) => layer.name === 'Sky in the water')
    check(found.mask.recipe.steps.map(({ kind }) => kind).join() === 'water', 'the water was found')
    const foundWet = await composite(page)
    same(pixelAt(foundWet, ...SKY), pixelAt(amber, ...SKY), 0, 'the sky stays')
    // Waves that mirrored the sky, not the boats and houses in the water.
    const mirrors = (shown) => {
      let changed = 0
      for (let y = WATER + 4; y < 596; y++)
        for (let x = 4; x < 894; x++)
          if (pixelAt(shown, x, y).some((v, c) => Math.abs(v - pixelAt(amber, x, y)[c]) >= 3)) changed++
      return changed / (890 * (592 - WATER))
    }
    const part = mirrors(foundWet)
    check(part > 0.02 && part < 0.5, `a part of the water that was found mirrors the new sky: ${part}`)
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+z')
    check((await records()).length === layers.length, 'without the water the new sky is as it was')

    // Or what is selected mirrors the new sky where its waves mirrored the old one; above it nothing changes.
    await stage(page, 'Select')
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 2, WATER), await at(page, 897, 598))
    await shareAfter(page, 0)
    await stage(page, 'Match')
    await page.getByRole('button', { name: 'Sky in the water', exact: true }).click()
    await page.getByRole('slider', { name: 'Ripple' }).waitFor()
    const inWater = (await records()).find((layer) => layer.name === 'Sky in the water'),
      steps = inWater.mask.recipe.steps.map((step) => ({ ...step, id: undefined })),
      wet = await composite(page)
    check(steps.length === 1 && steps[0].kind === 'rectangle', `the water is what was selected: ${steps.length} steps`)
    const share = mirrors(wet)
    check(share > 0.02 && share < 0.5, `a part of the water mirrors the new sky: ${share}`)
    same(pixelAt(wet, ...SKY), pixelAt(amber, ...SKY), 0, 'the sky stays')
    same(pixelAt(wet, 450, WATER - 20), pixelAt(amber, 450, WATER - 20), 0, 'the land stays')
    const water = join(folder, 'water.json')
    writeFileSync(water, JSON.stringify({ version: 1, steps }))
    await byCommand(wet, ['--water', water])
    await page.locator('[data-canvas]').focus()
    for (let k = 0; k < 2; k++) await page.keyboard.press('Control+z')
    check((await records()).length === layers.length, 'without the water the new sky is as it was, once more')

    // Before, beside a divider, where it acts: looked at, not changed.
    await stage(page, 'Match')
    const seen = async (place = SKY) => {
        const [x, y] = await at(page, place[0], place[1])
        const shot = sharp(await page.screenshot({ clip: { x, y, width: 2, height: 2 } })).raw()
        return [...(await shot.toBuffer()).subarray(0, 3)]
      },
      look = (name) => page.getByRole('radio', { name, exact: true }).click(),
      /** Waits until it does. */
      shows = async (colour, what) => {
        for (let tries = 0; ; tries++) {
          const now = await seen()
          if (now.every((v, c) => Math.abs(v - colour[c]) <= 6)) return
          check(tries < 60, `${what}: ${now}, wanted ${colour}`)
          await page.waitForTimeout(150)
        }
      }
    await shows(pixelAt(amber, ...SKY), 'the new sky')
    await look('Before')
    await shows(pixelAt(before, ...SKY), 'before, the photo')
    await look('Result')
    await shows(pixelAt(amber, ...SKY), 'the result again')
    await look('Divider')
    await shows(pixelAt(before, ...SKY), 'left of the divider the photo')
    await look('Result')
    await shows(pixelAt(amber, ...SKY), 'the result once more')
    const land = await seen(LAND)
    await look('Where it acts')
    for (let tries = 0; (await seen(LAND)).every((v, c) => Math.abs(v - land[c]) < 20); tries++) {
      check(tries < 60, 'where it acts the land is tinted')
      await page.waitForTimeout(150)
    }
    await look('Result')
    await shows(pixelAt(amber, ...SKY), 'and the result again')
    check((await records()).length === layers.length, 'looking changes nothing')

    // Brushed away at one place the photo is as it came; everywhere else the new sky stays.
    await page.getByRole('button', { name: 'Brush away …' }).click()
    await drag(page, await at(page, SKY[0] - 60, SKY[1]), await at(page, SKY[0] + 60, SKY[1]))
    await saved(page)
    const brushed = await composite(page)
    same(pixelAt(brushed, ...SKY), pixelAt(before, ...SKY), 1, 'where it was brushed away the photo shows')
    same(pixelAt(brushed, ...LAND), pixelAt(amber, ...LAND), 1, 'the land is as it was')
    await page.locator('[data-canvas]').focus()
    for (let k = 0; k < 2; k++) await page.keyboard.press('Control+z')

    await stage(page, 'Match')
    // The sky takes over what the land does not follow: as much lighter or darker as the land is not.
    await page.getByRole('button', { name: 'Exposure, warmth' }).click()
    const stopsIn = async () =>
      (await records()).find((layer) => layer.name === 'Exposure of the sky')?.adjustment.stops
    check((await stopsIn()) === 0, `while the land follows whole, the sky needs nothing: ${await stopsIn()}`)
    // Its light is a value like any other, and stays when the sky is exchanged.
    await typeInto(page, 'Tone, typed', 40)
    check((await stopsIn()) < 0, `the land follows a darker light less, the sky more: ${await stopsIn()}`)
    await typeInto(page, 'Exposure, typed', -1)
    const exposed = await composite(page),
      darker = (colour) => colour.map((v, c) => (c < 3 ? 255 * fromLinear(toLinear(v / 255) / 2) : v))
    same(pixelAt(exposed, ...SKY), darker(pixelAt(amber, ...SKY)), 2.5, 'the sky is a stop darker')
    await stage(page, 'Match')
    await bring('sky morning')
    await page.getByRole('region', { name: 'New sky' }).getByText('sky morning').waitFor()
    await page.waitForTimeout(700)
    const exchanged = await records(),
      light = exchanged.find((layer) => layer.name === 'Light on the land').adjustment
    check((await stopsIn()) === -1, 'what the editor set stays')
    near(light.tone, 0.4, 1e-6, 'the tone that was set')
    check(exchanged.filter((layer) => layer.kind === 'picture').length === 3, 'no picture more than before')
    check(
      light.ambient.join() !== layers.find((layer) => layer.name === 'Light on the land').adjustment.ambient.join(),
      'the light is the other sky’s',
    )
    for (let k = 0; k < 5; k++) await page.keyboard.press('Control+z')
    check((await records()).length === 1, 'undone, the photo is alone again')

    // Arrow keys step through them, several in a row as one change; the sky is dragged, its horizon laid anew.
    await stage(page, 'Match')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('ArrowRight')
    await page.getByRole('region', { name: 'Light on the land' }).waitFor({ timeout: 60_000 })
    const [first, second, third] = await options.evaluateAll((cards) =>
      cards.map((card) => card.getAttribute('aria-label').split(',')[0]),
    )
    const heading = page.getByRole('region', { name: 'New sky' })
    await heading.getByText(first).waitFor()
    for (const name of [second, third]) {
      await page.keyboard.press('ArrowRight')
      await heading.getByText(name).waitFor()
    }
    await page.waitForTimeout(700)
    const stepped = await records(),
      sky = stepped.find((layer) => layer.name === third)
    await drag(page, await at(page, ...SKY), await at(page, SKY[0] + 60, SKY[1] + 5))
    const dragged = (await records()).find((layer) => layer.name === third)
    near(dragged.placement[4] - sky.placement[4], 60, 3, 'the sky was dragged across')
    const grip = page.getByRole('slider', { name: 'Horizon of the sky' }),
      box = await grip.boundingBox(),
      middle = [box.x + box.width / 2, box.y + box.height / 2]
    const horizon = Number(await grip.getAttribute('aria-valuenow'))
    await drag(page, middle, [middle[0], middle[1] + 40])
    const lower = Number(await grip.getAttribute('aria-valuenow'))
    await dragTakenBack(page, [middle[0], middle[1] + 40], middle, records, 'the horizon')
    check(lower > horizon + 25, `the horizon was dragged down: ${horizon} → ${lower}`)
    // A sky in its place has its horizon there, too.
    await page.keyboard.press('ArrowLeft')
    await heading.getByText(second).waitFor()
    near(Number(await grip.getAttribute('aria-valuenow')), lower, 2, 'the horizon stays where it was put')
    await page.waitForTimeout(700)
    for (let k = 0; k < 5; k++) await page.keyboard.press('Control+z')
    check((await records()).length === 1, 'a step, a burst, a drag, the horizon and a step back are five changes')

    // Into a group of its own, out of the library, and back.
    await skyOf('sky morning').hover()
    await page.getByRole('button', { name: 'More for sky morning' }).click()
    await page.getByRole('menuitem', { name: 'Move to a group' }).click()
    await page.getByRole('menuitem', { name: 'A new group …' }).click()
    await page.getByRole('textbox', { name: 'New group for sky morning' }).fill('Harbour')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Harbour/ }).click()
    check((await options.count()) === 1, 'the group holds the sky that was moved there')
    await skyOf('sky morning').hover()
    await page.getByRole('button', { name: 'More for sky morning' }).click()
    await page.getByRole('menuitem', { name: 'Remove from the library' }).click()
    await page.getByText('is out of the library').waitFor()
    await page.getByRole('button', { name: 'Undo' }).last().click()
    await skyOf('sky morning').waitFor()
    await page.reload()
    await stage(page, 'Match')
    await page.getByRole('button', { name: /^Harbour 1/ }).waitFor()
    return `land at ${LAND}: ${pixelAt(before, ...LAND).slice(0, 3)} → ${pixelAt(amber, ...LAND).slice(0, 3)}`
  } finally {
    await browser.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
