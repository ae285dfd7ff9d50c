import { expect, it } from 'vitest'
import { randomOf } from '../../../tests/madeUp/random'
import { minimum } from './least'

it('the least along a line is that of a search around every place, however long the line', () => {
  const random = randomOf(7)
  for (let n = 0; n < 200; n++) {
    const line = Float32Array.from({ length: random.whole(1, 60) }, () => random.between(-1, 10)),
      size = random.whole(1, 20),
      out = new Float32Array(line.length)
    minimum(line, out, size)
    expect([...out]).toEqual(
      [...line].map((_, i) => Math.min(8, ...line.subarray(Math.max(0, i - size), i + size + 1))),
    )
  }
})
