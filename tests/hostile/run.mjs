/** npm run hostile [files] [bodies] [seed]: ends with 1 when something was answered by a 500, took too long, grew too large or was left over. */
import { startApplication } from '../journeys/application.mjs'
import { bundled } from '../madeUp/bundled.mjs'
import { drawHostile } from './hostile.mjs'

const [files = 300, bodies = 200, seed = Date.now() % 1e6] = process.argv.slice(2).map(Number)
const { randomOf } = await bundled('random.ts')
const application = await startApplication()
try {
  const { troubles, statuses, healthMost, healthMean, mb } = await drawHostile(application, {
    files,
    bodies,
    random: randomOf(seed),
    say: (text) => console.log(text),
  })
  console.log(`${files} files, ${bodies} bodies (seed ${seed}); answers ${JSON.stringify(statuses)}`)
  console.log(
    `health mean ${healthMean.toFixed(0)} ms, at most ${healthMost.toFixed(0)} ms; memory at most ${mb.toFixed(0)} MB`,
  )
  for (const trouble of troubles) console.log(trouble)
  if (troubles.length) console.log(application.log().split('\n').slice(-60).join('\n'))
  process.exitCode = troubles.length ? 1 : 0
} finally {
  await application.stop()
}
