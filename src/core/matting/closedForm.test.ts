import { randomOf } from '../../../tests/madeUp/random'
import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { solveClosedForm } from './closedForm'

type Triple = [number, number, number]

/** The matting Laplacian by the book: Levin, Lischinski and Weiss 2008, equation 12, windows of 3 × 3 px that lie whole in the picture. */
function laplacian(width: number, height: number, colours: readonly Triple[], epsilon: Float32Array): number[][] {
  const L = colours.map(() => colours.map(() => 0))
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const window = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => (y + dy) * width + x + dx)),
        mean = [0, 1, 2].map((c) => window.reduce((sum, i) => sum + colours[i][c] / 9, 0)),
        off = window.map((i) => colours[i].map((v, c) => v - mean[c])),
        held = [0, 1, 2].map((a) =>
          [0, 1, 2].map(
            (b) => off.reduce((sum, o) => sum + (o[a] * o[b]) / 9, 0) + (a === b ? epsilon[y * width + x] / 9 : 0),
          ),
        )
      window.forEach((i, m) => {
        const turned = solved(held, off[m])
        window.forEach((j, n) => {
          L[i][j] += (i === j ? 1 : 0) - (1 + off[n].reduce((sum, v, c) => sum + v * turned[c], 0)) / 9
        })
      })
    }
  return L
}

/** Gaussian elimination with the largest pivot (common practice). */
function solved(matrix: readonly number[][], right: readonly number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i]])
  rows.forEach((_, k) => {
    const pivot = rows.reduce((best, row, i) => (i > k && Math.abs(row[k]) > Math.abs(rows[best][k]) ? i : best), k)
    ;[rows[k], rows[pivot]] = [rows[pivot], rows[k]]
    rows.forEach((row, i) => {
      if (i === k) return
      const times = row[k] / rows[k][k]
      for (let c = k; c < row.length; c++) row[c] -= times * rows[k][c]
    })
  })
  return rows.map((row, i) => row[rows.length] / row[i])
}

it('is what the equation by the book says, whatever is unknown, held back and believed', () => {
  const cases = fc.record({
    width: fc.integer({ min: 1, max: 9 }),
    height: fc.integer({ min: 1, max: 7 }),
    unknown: fc.constantFrom(0.1, 0.5, 0.9, 1),
    grey: fc.boolean(),
    seed: fc.nat(),
  })
  fc.assert(
    fc.property(cases, ({ width, height, unknown: share, grey, seed }) => {
      const r = randomOf(seed),
        count = width * height,
        data = new Uint8ClampedArray(4 * count),
        unknown = Uint8Array.from({ length: count }, () => (r.chance(share) ? 1 : 0)),
        start = Float32Array.from({ length: count }, r),
        epsilon = Float32Array.from({ length: count }, () => 10 ** r.between(-7, -5)),
        weight = Float32Array.from({ length: count }, () => r.between(0.05, 1.05)),
        belief = Float32Array.from({ length: count }, r),
        alpha = start.slice()
      for (let i = 0; i < data.length; i++) data[i] = grey && i % 4 ? data[i - 1] : r.whole(0, 256)
      solveClosedForm({ picture: { width, height, data }, unknown, alpha }, { epsilon, belief, weight }, 1000)

      const colours = Array.from({ length: count }, (_, i) =>
          [0, 1, 2].map((c) => LINEAR_OF_BYTE[data[4 * i + c]]),
        ) as Triple[],
        L = laplacian(width, height, colours, epsilon),
        nodes = [...unknown.keys()].filter((i) => unknown[i]),
        matrix = nodes.map((i) => nodes.map((j) => L[i][j] + (i === j ? weight[i] : 0))),
        right = nodes.map((i) =>
          L[i].reduce((sum, v, j) => (unknown[j] ? sum : sum - v * start[j]), weight[i] * belief[i]),
        ),
        truth = solved(matrix, right)
      for (let i = 0; i < count; i++) if (!unknown[i]) expect(alpha[i]).toBe(start[i])
      nodes.forEach((i, k) => expect(Math.abs(alpha[i] - Math.min(1, Math.max(0, truth[k])))).toBeLessThan(2e-3))
    }),
  )
})
