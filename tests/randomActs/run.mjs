/** npm run acts [count] [seed]: does so many things at random on the workbench; ends with 1 when the page reported something, something was not saved, or going back and on again came to something else. */
import { startApplication } from '../journeys/application.mjs'
import { bundled } from '../madeUp/bundled.mjs'
import { drawActs } from './acts.mjs'

const [count = 600, seed = Date.now() % 1e6] = process.argv.slice(2).map(Number)
const { randomOf } = await bundled('random.ts')
const application = await startApplication()
try {
  const { troubles, byKind } = await drawActs(application, { count, random: randomOf(seed), say: console.log })
  console.log(`seed ${seed}: ${Object.entries(byKind).map(([kind, n]) => `${n} ${kind}`).join(', ')}`) // prettier-ignore
  for (const trouble of troubles) console.log(trouble)
  process.exitCode = troubles.length ? 1 : 0
} finally {
  await application.stop()
}
