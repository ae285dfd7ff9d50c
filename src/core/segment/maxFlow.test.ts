/** Against a plain reference: shortest augmenting paths on the same graph (Edmonds and Karp 1972), on random grids. */
import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { withRoom } from '../kernels'
import { FlowGrid } from './maxFlow'

interface Graph {
  width: number
  nodes: number
  terminals: [number, number][]
  edges: [number, number, number, number][]
}

function edmondsKarp({ nodes, terminals, edges }: Graph): number {
  const s = nodes,
    t = nodes + 1,
    capacity = Array.from({ length: nodes + 2 }, () => new Map<number, number>())
  const add = (a: number, b: number, c: number) => {
    capacity[a].set(b, (capacity[a].get(b) ?? 0) + c)
    capacity[b].set(a, capacity[b].get(a) ?? 0)
  }
  terminals.forEach(([from, to], i) => {
    add(s, i, from)
    add(i, t, to)
  })
  for (const [a, b, there, back] of edges) {
    add(a, b, there)
    add(b, a, back)
  }
  let flow = 0
  for (;;) {
    const from = new Map<number, number>([[s, -1]]),
      queue = [s]
    for (const p of queue)
      for (const [q, c] of capacity[p])
        if (c > 0 && !from.has(q)) {
          from.set(q, p)
          queue.push(q)
        }
    if (!from.has(t)) return flow
    let least = Infinity
    for (let q = t; q !== s; q = from.get(q)!) least = Math.min(least, capacity[from.get(q)!].get(q)!)
    for (let q = t; q !== s; q = from.get(q)!) {
      const p = from.get(q)!
      capacity[p].set(q, capacity[p].get(q)! - least)
      capacity[q].set(p, capacity[q].get(p)! + least)
    }
    flow += least
  }
}

/** Ways of a grid that lead on: east, south-east, south, south-west. */
const WAYS: [way: number, dx: number, dy: number][] = [
  [0, 1, 0],
  [1, 1, 1],
  [2, 0, 1],
  [3, -1, 1],
]

function ours({ nodes, terminals, edges, width }: Graph) {
  return withRoom((stack) => {
    const grid = new FlowGrid(stack, nodes)
    terminals.forEach(([from, to], i) => grid.setTerminals(i, from, to))
    for (const [a, b, there, back] of edges)
      grid.setEdge(a, WAYS.find(([, dx, dy]) => a + dy * width + dx === b)![0], b, there, back)
    return { flow: grid.maxFlow(), inside: [...grid.sides()] }
  })
}

const cutValue = ({ terminals, edges }: Graph, inside: number[]): number =>
  terminals.reduce((sum, [from, to], i) => sum + (inside[i] ? to : from), 0) +
  edges.reduce(
    (sum, [a, b, there, back]) => sum + (inside[a] && !inside[b] ? there : 0) + (inside[b] && !inside[a] ? back : 0),
    0,
  )

const capacity = fc.integer({ min: 0, max: 20 })
const grids = fc.tuple(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 9 })).chain(([w, h]) => {
  const pairs: [number, number][] = []
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (const [, dx, dy] of WAYS)
        if (x + dx >= 0 && x + dx < w && y + dy < h) pairs.push([y * w + x, (y + dy) * w + x + dx])
  return fc
    .record({
      nodes: fc.constant(w * h),
      terminals: fc.array(fc.tuple(capacity, capacity), { minLength: w * h, maxLength: w * h }),
      weights: fc.array(fc.tuple(capacity, capacity), { minLength: pairs.length, maxLength: pairs.length }),
    })
    .map(({ nodes, terminals, weights }): Graph => ({
      width: w,
      nodes,
      terminals,
      edges: pairs.map(([a, b], i) => [a, b, ...weights[i]]),
    }))
})

describe('maximum flow', () => {
  it('of random grids of eight neighbours is the reference’s, and the cut it leaves has that value', () => {
    fc.assert(
      fc.property(grids, (graph) => {
        const { flow, inside } = ours(graph)
        expect(flow).toBe(edmondsKarp(graph))
        expect(cutValue(graph, inside)).toBe(flow) // max-flow min-cut: Ford and Fulkerson 1956
      }),
      { numRuns: 600 },
    )
  })

  it('takes the worked example by hand: two paths share the narrow middle', () => {
    // source → 0 (5) → 1 (3) → sink (4), and source → 1 (2)
    expect(
      ours({
        width: 2,
        nodes: 2,
        terminals: [
          [5, 0],
          [2, 4],
        ],
        edges: [[0, 1, 3, 0]],
      }).flow,
    ).toBe(4)
  })
})
