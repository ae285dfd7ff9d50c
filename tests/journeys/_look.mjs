import { readFileSync } from 'node:fs'
import { openBrowser } from './browser.mjs'
import * as h from './hands.mjs'
const { url } = JSON.parse(readFileSync('/tmp/serve.json', 'utf8'))
const b = await openBrowser(undefined, process.env.DARK ? { colorScheme: 'dark' } : {})
const { page } = b
const project = (l) => `${url}/project/00000000-0000-4000-8000-00000000${l}000`
const shot = async (n) => {
  await page.waitForTimeout(900)
  await page.screenshot({ path: `/tmp/look-${n}.png` })
}
try {
  const f = await import(process.argv[2])
  await f.default({ page, h, project, shot, url })
} catch (e) {
  console.log(e)
  await page.screenshot({ path: '/tmp/look-failed.png' })
}
console.log(b.troubles)
await b.close()
