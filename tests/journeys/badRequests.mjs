/** A short draw of hostile files and requests; `npm run hostile` draws many. */
import { bundled } from '../madeUp/bundled.mjs'
import { drawHostile } from '../hostile/hostile.mjs'
import { check } from './hands.mjs'

export async function badRequests(application) {
  const { randomOf } = await bundled('random.ts')
  const { troubles, healthMost, mb } = await drawHostile(application, { files: 40, bodies: 40, random: randomOf(5) })
  // How long it took is measured by `npm run hostile`: other work on this machine must not fail a test.
  const wrong = troubles.filter((trouble) => !/^health took/.test(trouble))
  check(!wrong.length, wrong.join('\n'))
  return `health at most ${healthMost.toFixed(0)} ms, memory at most ${mb.toFixed(0)} MB`
}
