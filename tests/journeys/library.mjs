/** The library: filled by drop and file, grouped, searched, renamed, moved, taken out and back; taken into a project; and pictures that wait in the browser while the server is away, over a reload. */
import { join } from 'node:path'
import sharp from 'sharp'
import { makeProject, pictureLayer, recordsWith, storePicture } from '../madeUp/project.mjs'
import { openBrowser } from './browser.mjs'
import { check, drop, menuPath, openProject, pictureComplete, recordsOf, saved, stage } from './hands.mjs'

const SIZE = { width: 90, height: 60 }

export async function library(application) {
  const browser = await openBrowser()
  const { page } = browser
  const picture = async (name, background) => {
    const file = join(application.data, `${name}.png`)
    await sharp({ create: { ...SIZE, channels: 3, background } })
      .png()
      .toFile(file)
    return file
  }
  const listed = async (kind) =>
    (await (await fetch(`${application.url}/api/library?kind=${kind}`)).json()).pictures.map(
      ({ name, group, projects }) => `${name}|${group}|${projects}`,
    )
  /** What the page shows at once the server knows a moment later. */
  const comes = async (holds, sentence) => {
    for (let tries = 0; tries < 60; tries++) {
      if (holds(await listed('backdrop'))) return
      await page.waitForTimeout(100)
    }
    throw new Error(sentence)
  }
  try {
    const card = (name) => page.locator(`[data-picture="${name}"]`),
      part = (name) => page.getByLabel('Part of the library').getByText(name, { exact: true }).click()
    await page.goto(`${application.url}/library`)
    await card('Plaster').waitFor()
    check((await page.locator('[data-picture]').count()) === 5, 'the backdrops that come with the application')
    await part('Skies')
    await card('High summer').waitFor()
    check((await page.locator('[data-picture]').count()) >= 12, 'its skies')
    await page.getByRole('button', { name: /^Clear \d/ }).click()
    await card('Embers').waitFor({ state: 'detached' })
    await part('Masks')
    await card('Torn edge').waitFor()

    // Into a group of its own, found by its name and by its group's.
    await part('Backdrops')
    await drop(page, 'section[aria-label=Library]', [await picture('lamp wall', '#7a5230')])
    await card('lamp wall').waitFor()
    await menuPath(page, 'More for lamp wall', 'Move to a group', 'A new group …')
    await page.getByLabel('New group for lamp wall').fill('Evening')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Evening 1/ }).waitFor()
    await page.getByLabel('Search the library').fill('evening la')
    await card('Plaster').waitFor({ state: 'detached' })
    check((await page.locator('[data-picture]').count()) === 1, 'found by the words of name and group')
    await page.getByRole('button', { name: 'More for lamp wall' }).click()
    await page.getByRole('menuitem', { name: 'Rename' }).click()
    await page.getByLabel('Name of lamp wall').fill('Lamp lit wall')
    await page.keyboard.press('Enter')
    await card('Lamp lit wall').waitFor()
    await page.getByLabel('Search the library').fill('')
    await comes((rows) => rows.includes('Lamp lit wall|Evening|0'), 'it is stored under its name, in its group')

    // Out, and back with its group.
    await page.getByRole('button', { name: 'More for Lamp lit wall' }).click()
    await page.getByRole('menuitem', { name: 'Remove from the library' }).click()
    await card('Lamp lit wall').waitFor({ state: 'detached' })
    await comes((rows) => !rows.some((row) => row.startsWith('Lamp')), 'it is out')
    await page.getByRole('button', { name: 'Undo' }).click()
    await card('Lamp lit wall').waitFor()
    await comes((rows) => rows.includes('Lamp lit wall|Evening|0'), 'back as it was')

    // Into a project: below the layer worked on, and on top.
    const asset = await storePicture(application, await sharp(await picture('photo', '#204060')).toBuffer()),
      id = await makeProject(
        application,
        recordsWith([pictureLayer('photo', asset, SIZE)], SIZE, { name: 'Of the library' }),
      )
    await openProject(page, `${application.url}/project/${id}`)
    await stage(page, 'Gather')
    await page.getByRole('button', { name: 'From the library …' }).click()
    await card('Lamp lit wall').waitFor()
    await page.getByRole('button', { name: 'Choose Lamp lit wall' }).click()
    await page.getByRole('button', { name: /^Add below/ }).click()
    await saved(page)
    await stage(page, 'Gather')
    await page.getByRole('button', { name: 'From the library …' }).click()
    await page.getByRole('button', { name: 'Choose Plaster' }).dblclick()
    await saved(page)
    const names = async () => (await recordsOf(page, application, id)).layers.map(({ name }) => name)
    check((await names()).join() === 'Lamp lit wall,photo,Plaster', `below and on top: ${await names()}`)

    // The server does not take pictures for a while: they wait over a reload, each for its place.
    await page.route('**/api/pictures', (route) => route.abort())
    await drop(page, '[data-drop-place]', [await picture('late one', '#902020'), await picture('late two', '#209020')])
    await page.getByText(/pictures wait in this browser/).waitFor()
    await page.waitForTimeout(500)
    await page.unroute('**/api/pictures')
    await page.reload()
    await pictureComplete(page)
    for (let tries = 0; (await names()).length < 5 && tries < 100; tries++) await page.waitForTimeout(100)
    check(
      (await names()).slice(3).join() === 'late one,late two',
      `what waited came in, in its order: ${await names()}`,
    )
    await saved(page)
    await page.reload()
    await pictureComplete(page)
    await page.waitForTimeout(1000)
    check((await names()).length === 5, 'once each')

    // Where a picture is used is known, and what a project shows is found among the own ones.
    await page.goto(`${application.url}/library`)
    await part('Own pictures')
    await card('late one').waitFor()
    await part('Backdrops')
    await page.getByRole('button', { name: 'Where Lamp lit wall is used' }).click()
    await page.getByRole('menuitem', { name: 'Of the library' }).click()
    await page.waitForURL(new RegExp(id))
    check(!browser.troubles.length, browser.troubles.join('\n'))
  } finally {
    await browser.close()
  }
}
