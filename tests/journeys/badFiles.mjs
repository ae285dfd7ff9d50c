/** Files that are not what they seem: each works as a person expects, or is refused with one clear sentence; the server stays up and small. */
import {
  closeSync,
  mkdtempSync,
  openSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createDeflate } from 'node:zlib'
import { once } from 'node:events'
import sharp from 'sharp'
import { openBrowser } from './browser.mjs'
import { root } from './application.mjs'
import { check, drop, near, pictureComplete } from './hands.mjs'

const MOST_SERVER_MB = 1500

/** A PNG of zeros, made as a stream: its pixels would take 3.6 GB. */
async function hugePng(file, side) {
  const out = openSync(file, 'w')
  const chunk = (type, data) => {
    const body = Buffer.concat([Buffer.from(type), data]),
      frame = Buffer.alloc(8 + data.length + 4)
    frame.writeUInt32BE(data.length)
    body.copy(frame, 4)
    frame.writeUInt32BE(crcOf(body), 8 + data.length)
    writeSync(out, frame)
  }
  writeSync(out, Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]))
  const header = Buffer.alloc(13)
  header.writeUInt32BE(side)
  header.writeUInt32BE(side, 4)
  header[8] = 8
  header[9] = 0
  chunk('IHDR', header)
  const deflate = createDeflate({ level: 1 }),
    parts = []
  deflate.on('data', (part) => parts.push(part))
  const rows = Buffer.alloc((side + 1) * 100)
  for (let y = 0; y < side; y += 100) if (!deflate.write(rows)) await once(deflate, 'drain')
  deflate.end()
  await once(deflate, 'end')
  for (const part of parts) chunk('IDAT', part)
  chunk('IEND', Buffer.alloc(0))
  closeSync(out)
}
function crcOf(data) {
  let c = 0xffffffff
  for (const byte of data) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}

/** The server process's greatest memory so far. */
const serverMb = (application) =>
  Number(
    /VmHWM:\s+(\d+)/.exec(
      readFileSync(`/proc/${readFileSync(join(application.data, 'server.pid'), 'utf8').trim()}/status`, 'utf8'),
    )[1],
  ) / 1024

export async function badFiles(application) {
  const folder = mkdtempSync(join(tmpdir(), 'wily-bad-'))
  const file = (name, bytes) => {
    const path = join(folder, name)
    writeFileSync(path, bytes)
    return path
  }
  const photo = readFileSync(join(root, 'demo/pictures/otter-puppet.jpg'))
  const browser = await openBrowser()
  const { page } = browser
  try {
    await hugePng(join(folder, 'zeros.png'), 30_000)
    const heavy = file('heavy.jpg', photo)
    truncateSync(heavy, 200 * 1024 * 1024)

    // ---- refused, each in one sentence
    const refused = [
      [
        file('notes.jpg', 'Dear diary, this is not a picture.\n'),
        /^“notes\.jpg” is not a picture this application can read: it takes JPEG, PNG/,
      ],
      [
        file('cut.jpg', photo.subarray(0, photo.length >> 1)),
        /^“cut\.jpg” is damaged: it says 1800 × 1200 px, but its data ends early/,
      ],
      [file('empty.png', ''), /^“empty\.png” is empty\.$/],
      [join(folder, 'zeros.png'), /^“zeros\.png” has 900 megapixels \(30000 × 30000\); up to 150 are read\.$/],
      [
        file('drawing.svg', '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
        /^“drawing\.svg” is not a picture/,
      ],
    ]
    await page.goto(application.url)
    await page.waitForSelector('text=Choose a photo')
    for (const [path, sentence] of refused) {
      await page.setInputFiles('input[type=file]', path)
      const problem = page
        .getByRole('list', { name: 'Refused' })
        .getByRole('listitem')
        .filter({ hasText: path.split('/').pop() })
      await problem.waitFor({ timeout: 30_000 })
      const said = (await problem.textContent()).trim()
      check(sentence.test(said), `${path.split('/').pop()}: “${said}”`)
      check(new URL(page.url()).pathname === '/', 'a refused file starts no project')
    }
    await page.setInputFiles('input[type=file]', heavy)
    await page.locator('text=“heavy.jpg” is 200 MB; picture files up to 160 MB are read.').waitFor()
    // The same by hand, past the page: the server reads the body to its end, keeps nothing, and says the same.
    const direct = await fetch(`${application.url}/api/pictures`, {
      method: 'POST',
      body: readFileSync(heavy),
      headers: { 'x-file-name': 'heavy.jpg' },
    })
    check(
      direct.status === 413 && /200 MB; picture files up to 160 MB/.test((await direct.json()).problem),
      'the server refuses 200 MB in one sentence',
    )

    // ---- work as a person expects
    const marked = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#203040' } })
      .composite([
        {
          input: await sharp({ create: { width: 20, height: 20, channels: 3, background: '#e06020' } })
            .png()
            .toBuffer(),
          left: 0,
          top: 0,
        },
      ])
      .png()
      .toBuffer()
    const turned = file(
      'turned.jpg',
      await sharp(marked)
        .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
        .withMetadata({ orientation: 6 })
        .toBuffer(),
    )
    const deep = file('deep.png', await sharp(marked).toColourspace('rgb16').png().toBuffer())
    const cmyk = file('print.jpg', await sharp(marked).toColourspace('cmyk').jpeg({ quality: 100 }).toBuffer())
    const animated = file(
      'moving.webp',
      await sharp([marked, await sharp(marked).negate().png().toBuffer()], { join: { animated: true } })
        .webp({ lossless: true })
        .toBuffer(),
    )
    const grey = file('grey.png', await sharp(marked).greyscale().png().toBuffer())
    const see = file('see-through.png', await sharp(marked).ensureAlpha(0.5).png().toBuffer())
    const expected = [
      [turned, 40, 60, [50, 10], [224, 96, 32], 6], // orientation 6: the mark of the upper left lies upper right
      [deep, 60, 40, [10, 10], [224, 96, 32], 1],
      [cmyk, 60, 40, [10, 10], null, 0],
      [animated, 60, 40, [10, 10], [224, 96, 32], 1],
      [grey, 60, 40, [10, 10], null, 0],
      [see, 60, 40, [10, 10], [224, 96, 32], 2],
    ]
    for (const [path, width, height, , colour, within] of expected) {
      const name = path.split('/').pop()
      await page.goto(application.url)
      await page.waitForSelector('text=Choose a photo')
      await drop(page, 'main', [path])
      await page.waitForURL('**/project/*')
      await page.waitForSelector('svg[data-view]')
      await pictureComplete(page)
      await page.waitForSelector(`text=${width} × ${height} px`)
      if (!colour) continue
      const mark = name === 'turned.jpg' ? [30, 10] : [10, 10]
      const view = (await page.locator('svg[data-view]').getAttribute('data-view')).split(' ').map(Number)
      const box = await page.locator('[data-canvas]').boundingBox()
      await page.mouse.move(box.x + (mark[0] - view[0]) * view[2], box.y + (mark[1] - view[1]) * view[2])
      await page.waitForFunction(() => /L\*/.test(document.querySelector('[data-pixel]').textContent))
      const read = (await page.locator('[data-pixel]').textContent()).match(/\d+/g).slice(0, 3).map(Number)
      colour.forEach((v, c) => near(read[c], v, within, `${name}, channel ${c} under the pointer`))
    }

    // A picture sent twice is stored once.
    const first = await (
      await fetch(`${application.url}/api/pictures`, { method: 'POST', body: readFileSync(deep) })
    ).json()
    const second = await (
      await fetch(`${application.url}/api/pictures`, {
        method: 'POST',
        body: readFileSync(deep),
        headers: { 'x-file-name': 'other-name.png' },
      })
    ).json()
    check(first.asset === second.asset, 'the same bytes are the same picture')
    check(
      statSync(join(application.data, 'pictures', first.asset.slice(0, 2), first.asset)).size ===
        readFileSync(deep).length,
      'the original is stored as it came',
    )

    const health = await fetch(`${application.url}/api/health`)
    check(health.ok, 'the server is up')
    const mb = serverMb(application)
    check(mb < MOST_SERVER_MB, `the server's memory peaked at ${mb.toFixed(0)} MB`)
    check(browser.troubles.length === 0, `the page reported: ${browser.troubles.join(' | ')}`)
    return `server memory peak ${mb.toFixed(0)} MB`
  } finally {
    await browser.close()
    browser.forget()
    rmSync(folder, { recursive: true, force: true })
  }
}
