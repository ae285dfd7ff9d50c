import { expect, it } from 'vitest'
import { ciede2000 } from './ciede2000'

it('is what the paper’s pairs say, either way round', () => {
  // Sharma, Wu and Dalal (2005), table 1 (from memory).
  for (const [p, q, wanted] of [
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
  ] as const)
    for (const found of [ciede2000(p, q), ciede2000(q, p)]) expect(found).toBeCloseTo(wanted, 4)
})
