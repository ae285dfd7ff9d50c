/** A dull quay under another sky: measured, replaced, its light changed, exchanged, undone; the page, the export and the command line show the same. */
import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { beginWith, check, composite, near, pixelAt, pixels, recordsOf, saved, stage, typeInto } from './hands.mjs'

const picture = (name) => join(root, 'demo/pictures', name)
const quay = picture('lantern-quay.jpg'),
  SKY = [300, 150],
  LAND = [900, 1000]
const run = promisify(execFile)

export async function newSky(application) {
  const browser = await openBrowser(),
    { page } = browser,
    folder = mkdtempSync(join(tmpdir(), 'wily-sky-'))
  try {
    const id = await beginWith(page, application, quay)
    const before = await pixels(quay)
    await stage(page, 'Match')
    const measured = page.getByRole('region', { name: 'Measured in this photo' })
    await measured.getByText('levels').waitFor({ timeout: 60_000 })
    const words = await measured.innerText()
    check(/Light from\s+everywhere/.test(words), `under an overcast sky light comes from everywhere: ${words}`)

    const bring = async (button, name) => {
      const [chooser] = await Promise.all([
        page.waitForEvent('filechooser'),
        page.getByRole('button', { name: button }).click(),
      ])
      await chooser.setFiles(picture(name))
    }
    const records = async () => {
      await saved(page)
      return (await recordsOf(page, application, id)).layers
    }
    await bring('Choose a sky …', 'sky-amber.jpg')
    await page.getByRole('region', { name: 'Light on the land' }).waitFor({ timeout: 60_000 })
    const layers = await records(),
      group = layers.find((layer) => layer.kind === 'group')
    const names = layers.filter((layer) => layer.parent === group?.id).map((layer) => layer.name)
    check(
      names.filter((name) => name !== 'Grain of the photo').join() === 'sky amber,Land,Light on the land',
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
    const out = join(folder, 'quay.png')
    await run('bin/wily', ['replaceSky', quay, '--sky', picture('sky-amber.jpg'), '--out', out], { cwd: root })
    const alone = await pixels(out)
    let apart = 0
    for (let i = 0; i < alone.data.length; i++) apart = Math.max(apart, Math.abs(alone.data[i] - amber.data[i]))
    check(apart <= 1, `page's export and command line differ by ${apart}`)

    await stage(page, 'Match')
    // Its light is a value like any other, and stays when the sky is exchanged.
    await typeInto(page, 'Tone, typed', 40)
    await bring('Exchange the sky …', 'sky-morning.jpg')
    await page.getByText('sky morning').first().waitFor({ timeout: 60_000 })
    const exchanged = await records(),
      light = exchanged.find((layer) => layer.name === 'Light on the land').adjustment
    near(light.tone, 0.4, 1e-6, 'the tone that was set')
    check(exchanged.filter((layer) => layer.kind === 'picture').length === 3, 'no picture more than before')
    check(
      light.ambient.join() !== layers.find((layer) => layer.name === 'Light on the land').adjustment.ambient.join(),
      'the light is the other sky’s',
    )
    for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z')
    check((await records()).length === 1, 'undone, the photo is alone again')

    // What is no sky says so, and nothing changes.
    await bring('Choose a sky …', 'puppet-stage.jpg')
    await page.getByText('is no picture of a sky').waitFor({ timeout: 60_000 })
    check((await records()).length === 1, 'nothing came of it')
    return `land at ${LAND}: ${pixelAt(before, ...LAND).slice(0, 3)} → ${pixelAt(amber, ...LAND).slice(0, 3)}`
  } finally {
    await browser.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
