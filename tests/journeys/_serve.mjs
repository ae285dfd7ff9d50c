import { startApplication } from './application.mjs'
import { writeFileSync } from 'node:fs'
const a = await startApplication()
writeFileSync('/tmp/serve.json', JSON.stringify({ url: a.url, data: a.data, pid: process.pid }))
process.on('SIGTERM', async () => {
  await a.stop()
  process.exit(0)
})
setInterval(() => {}, 1000)
