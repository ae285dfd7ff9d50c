/** npm run faults [count] [seed]: draws faults against the application; ends with 1 when a change was lost, doubled, reordered or stuck. */
import { startApplication } from '../journeys/application.mjs'
import { drawFaults } from './faults.mjs'

const [count = 300, seed = Date.now() % 1e6] = process.argv.slice(2).map(Number)
const application = await startApplication()
try {
  const { troubles, byKind, ...sum } = await drawFaults(application, { count, seed, say: (text) => console.log(text) })
  console.log(
    Object.entries(byKind)
      .map(([kind, n]) => `${String(n).padStart(4)}  ${kind}`)
      .join('\n'),
  )
  console.log(
    `seed ${seed}: ${Object.entries(sum)
      .map(([name, n]) => `${n} ${name}`)
      .join(', ')}`,
  )
  for (const trouble of troubles) console.log(trouble)
  process.exitCode = troubles.length ? 1 : 0
} finally {
  await application.stop()
}
