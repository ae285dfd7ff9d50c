/** Each kind of fault once; `npm run faults` draws many. */
import { drawFaults } from '../faults/faults.mjs'
import { KINDS } from '../faults/kinds.mjs'
import { check } from './hands.mjs'

export async function someFaults(application) {
  const { troubles, faults, changes } = await drawFaults(application, { count: Object.keys(KINDS).length, seed: 8 })
  check(!troubles.length, troubles.join('\n'))
  return `${faults} faults on ${changes} changes: none lost, doubled, reordered or stuck`
}
