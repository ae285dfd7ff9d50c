import { randomOf } from '../../../tests/madeUp/random'
import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { bandAlong, MIDDLE } from './band'

it('lies within reach of a px that has one beside it on the other side of the middle, as brute force finds it', () => {
  const cases = fc.record({
    width: fc.integer({ min: 1, max: 30 }),
    height: fc.integer({ min: 1, max: 30 }),
    inside: fc.constantFrom(0.01, 0.1, 0.9),
    reach: fc.integer({ min: 1, max: 6 }),
    seed: fc.nat(),
  })
  fc.assert(
    fc.property(cases, ({ width, height, inside, reach, seed }) => {
      const r = randomOf(seed),
        data = Uint8Array.from({ length: width * height }, () => r.whole(0, MIDDLE) + (r.chance(inside) ? MIDDLE : 0))
      const on = (x: number, y: number) => data[y * width + x] >= MIDDLE,
        places = Array.from(data, (_, i): [number, number] => [i % width, Math.floor(i / width)]),
        rim = places.filter(([x, y]) =>
          places.some(([u, v]) => Math.abs(u - x) + Math.abs(v - y) === 1 && on(u, v) !== on(x, y)),
        )
      const near = places.map(([x, y]) => (rim.some(([u, v]) => (u - x) ** 2 + (v - y) ** 2 <= reach ** 2) ? 1 : 0))
      expect([...bandAlong({ width, height, data }, reach)]).toEqual(near)
    }),
  )
})
