/** Speed, side by side: each row runs ours and the reference in turn on a 12-megapixel picture in the same process, and prints the ratio of the medians. */
import { ROUNDS } from './photo'
import { type Row } from './row'
import { rowsOfPixels } from './rowsOfPixels'
import { rowsOfSubjects } from './rowsOfSubjects'

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]
const time = async (work: Row[2]) => {
  const started = performance.now()
  await work()
  return performance.now() - started
}

const wanted = process.argv.slice(2)
console.log(`12-megapixel picture, medians of ${ROUNDS} rounds, in turn\n`)
console.log(`${'row'.padEnd(32)}${'ours'.padStart(9)}${'reference'.padStart(12)}${'ratio'.padStart(9)}   to reach`)
for (const [name, target, ours, reference, theirs] of [...rowsOfPixels, ...rowsOfSubjects]) {
  if (wanted.length && !wanted.some((w) => name.includes(w))) continue
  const slow = /grabCut|textbook|edge/.test(reference) // seconds a round
  for (let i = 0; i < (slow ? 2 : 4); i++) await ours() // the compiler finds what is hot; the reference is compiled already
  await theirs()
  const a: number[] = [],
    b: number[] = []
  for (let round = 0; round < (slow ? 5 : ROUNDS); round++) {
    a.push(await time(ours))
    b.push(await time(theirs))
  }
  const ratio = median(a) / median(b)
  console.log(
    `${name.padEnd(32)}${`${median(a).toFixed(0)} ms`.padStart(9)}${`${median(b).toFixed(0)} ms`.padStart(12)}${ratio.toFixed(3).padStart(9)}   ${target === null ? '' : `≤ ${+target.toFixed(3)} ${ratio <= target ? 'reached' : 'MISSED'}`}  ${reference}`,
  )
}
