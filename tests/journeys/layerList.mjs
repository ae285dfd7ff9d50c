/** The list of layers by hand: dragged, named, grouped, clipped, locked, shown alone; a fill by the bucket; pictures put into the mask library; a project from what is selected. */
import { join } from 'node:path'
import { root } from './application.mjs'
import { openBrowser } from './browser.mjs'
import {
  addOnTop,
  at,
  beginWith,
  check,
  chooseFinder,
  click,
  composite,
  drag,
  menuPath,
  near,
  pixelAt,
  pixels,
  recordsOf,
  same,
  saved,
  stage,
  workOnSelection,
} from './hands.mjs'

const otter = join(root, 'demo/pictures/otter-puppet.jpg'),
  quay = join(root, 'demo/pictures/lantern-quay.jpg')

export async function layerList(application) {
  const browser = await openBrowser()
  const { page } = browser
  try {
    const photo = await pixels(otter)
    const id = await beginWith(page, application, otter)
    await addOnTop(page, quay)
    await saved(page)
    const names = async () => (await recordsOf(page, application, id)).layers.map((layer) => layer.name).join(' < ')
    const row = async (name) => {
      const box = await page.locator(`[data-layer="${name}"]`).boundingBox()
      return [box.x + box.width / 2, box.y + box.height / 2]
    }

    // In a low window a long menu is scrolled: all of it can be reached.
    await page.setViewportSize({ width: 1280, height: 420 })
    await page.getByRole('button', { name: 'More for this layer' }).click()
    const menu = await page.getByRole('menu').boundingBox()
    check(
      menu.y >= 0 && menu.y + menu.height <= 420,
      `the menu lies in the window, not at ${menu.y} to ${menu.y + menu.height}`,
    )
    await page.keyboard.press('End')
    await page.waitForTimeout(200)
    const end = await page.getByRole('menuitem', { name: 'Remove', exact: true }).boundingBox()
    check(end.y + end.height <= menu.y + menu.height, 'its last entry comes into view')
    await page.keyboard.press('Escape')
    await page.setViewportSize({ width: 1280, height: 800 })

    // Dragged below the other, and back by keys.
    const [x, y] = await row('lantern quay'),
      below = await row('otter puppet')
    await drag(page, [x, y], [x, below[1] + 6])
    check((await names()) === 'lantern quay < otter puppet', `after dragging: ${await names()}`)
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Alt+ArrowUp')
    check((await names()) === 'otter puppet < lantern quay', `after the key: ${await names()}`)

    // Named in place.
    await page.locator('[data-layer="lantern quay"] button', { hasText: 'lantern quay' }).dblclick()
    await page.getByLabel('Layer name').fill('Harbour')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[data-layer="Harbour"]')

    // Two chosen and grouped; the group folded and opened; both taken out again.
    await page.keyboard.down('Control')
    await page.getByRole('button', { name: 'Work on otter puppet' }).click()
    await page.keyboard.up('Control')
    await page.locator('[data-canvas]').focus()
    await page.keyboard.press('Control+g')
    await page.waitForSelector('[data-layer="Group"]')
    check((await page.locator('[data-depth="1"]').count()) === 2, 'two layers lie in the group')
    await page.getByRole('button', { name: 'Close Group' }).click()
    check((await page.locator('[data-layer]').count()) === 1, 'closed, it hides them')
    await page.getByRole('button', { name: 'Open Group' }).click()
    await menuPath(page, 'More for this layer', 'Ungroup')
    await page.waitForFunction(() => document.querySelectorAll('[data-depth="0"]').length === 2)

    // A locked layer stays where it is, and says so.
    await page.getByRole('button', { name: 'Work on Harbour' }).click()
    await menuPath(page, 'More for this layer', 'Lock, or unlock')
    await stage(page, 'Compose')
    await page.getByRole('radio', { name: 'Place' }).click()
    await drag(page, await at(page, 900, 600), await at(page, 1100, 700))
    await page.waitForSelector('text=Harbour is locked.')
    check(
      JSON.stringify((await recordsOf(page, application, id)).layers[1].placement) === '[1,0,0,1,0,0]',
      'it has not moved',
    )
    await page.getByRole('button', { name: 'Unlock Harbour' }).click()

    // Shown alone by Alt on its eye; then hidden.
    await page.keyboard.down('Alt')
    await page.getByRole('button', { name: 'Hide otter puppet' }).click()
    await page.keyboard.up('Alt')
    await page.waitForSelector('button[aria-pressed=true][aria-label="Hide otter puppet"]')
    await page.keyboard.down('Alt')
    await page.getByRole('button', { name: 'Hide otter puppet' }).click()
    await page.keyboard.up('Alt')
    await page.getByRole('button', { name: 'Hide Harbour' }).click()

    // The bucket fills what is similar, on a painted layer of its own; the layer is clipped to the one below.
    await page.getByRole('button', { name: 'Work on otter puppet' }).click()
    await page.getByRole('radio', { name: 'Fill', exact: true }).click()
    await click(page, 130, 320)
    await page.waitForSelector('[data-layer="Paint"]')
    await menuPath(page, 'More for this layer', 'Clip to the layer below, or release')
    await saved(page)
    let out = await composite(page)
    same(pixelAt(out, 130, 320), [0xc2, 0x41, 0x0c, 255], 1, 'the wall is filled')
    same(pixelAt(out, 900, 700), pixelAt(photo, 900, 700), 1, 'the puppet is not')

    // Two pictures into the mask library; one becomes a mask.
    await page.getByRole('button', { name: 'More for this layer' }).click()
    for (const name of ['Mask', 'From the library']) {
      const item = page.getByRole('menuitem', { name, exact: true })
      await item.waitFor()
      await page.waitForTimeout(150)
      await item.focus()
      await page.keyboard.press('Enter')
    }
    await page.getByRole('menuitem', { name: 'Spotlights' }).waitFor()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('menuitem', { name: /Put pictures into the library/ }).focus()
    await page.keyboard.press('Enter')
    await (await chooser).setFiles([quay, join(root, 'masks/vignette.png')])
    await page.waitForSelector('text=2 pictures put into the mask library.')
    await menuPath(page, 'More for this layer', 'Mask', 'From the library', 'vignette')
    await page.waitForSelector('[data-step-card=image]')
    await saved(page)
    out = await composite(page)
    same(pixelAt(out, 8, 8), pixelAt(photo, 8, 8), 2, 'in the corner the vignette hides the paint')

    // A project of its own from what is selected, colours and all.
    await stage(page, 'Select')
    await workOnSelection(page)
    await chooseFinder(page, 'Rectangle')
    await drag(page, await at(page, 200, 200), await at(page, 600, 500))
    await page.waitForFunction(() => document.querySelector('[data-selected]').textContent.includes('%'))
    await page.waitForTimeout(600)
    await saved(page)
    const whole = await composite(page)
    await stage(page, 'Select')
    await menuPath(page, 'More for this layer', 'New project from what is selected')
    await page.getByRole('button', { name: 'Open it' }).click()
    await page.waitForURL((url) => !url.href.includes(id))
    await page.waitForSelector('[data-layer="Selected"]')
    await saved(page)
    const piece = await composite(page)
    near(piece.width, 400, 3, 'the piece is as wide as the box')
    near(piece.height, 300, 3, 'and as high')
    same(pixelAt(piece, 100, 100), pixelAt(whole, 300, 300), 2, 'and shows what was there')
  } finally {
    await browser.close()
  }
}
