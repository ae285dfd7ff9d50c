import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { compose, scaling, translation } from '../raster/affine'
import { picturePyramid } from '../raster/levels'
import { type Picture } from '../raster/picture'
import { parseAdjustment } from './adjustments/registry'
import { lastCover, pieces } from './covering'
import { type Node, type PictureNode } from './nodes'
import { Renderer } from './renderer'

const CANVAS = { width: 420, height: 330 }
const photo = (seed: number): Picture => {
  const data = new Uint8ClampedArray(CANVAS.width * CANVAS.height * 4)
  for (let y = 0, i = 0; y < CANVAS.height; y++)
    for (let x = 0; x < CANVAS.width; x++, i += 4)
      data.set([(x * 3 + seed * 50) % 256, (y * 5 + seed * 90) % 256, ((x ^ y) * 2 + seed * 30) % 256, 255], i)
  return { ...CANVAS, data }
}
const pyramids = [1, 2, 3].map((seed) => picturePyramid(photo(seed), true))
const place = fc.tuple(
  fc.integer({ min: -160, max: 160 }),
  fc.integer({ min: -160, max: 160 }),
  fc.constantFrom(1, 1, 0.7, 1.3),
)
const layer = fc
  .tuple(
    fc.nat(2),
    place,
    fc.constantFrom('normal', 'normal', 'normal', 'multiply' as const),
    fc.constantFrom(1, 1, 0.6),
  )
  .map(([picture, [x, y, scale], blend, opacity]): Node => ({
    kind: 'picture',
    picture: { levels: pyramids[picture], opaque: true },
    toCanvas: compose(translation(x / 2, y / 2), scaling(scale)),
    blend,
    opacity,
  }))
const effect = fc
  .tuple(fc.constantFrom('gaussianBlur', 'discBlur', 'clarity'), fc.constantFrom(0, 3, 20), fc.constantFrom(1, 1, 0.5))
  .map(([kind, radius, opacity]): Node => ({ kind: 'adjust', adjustment: parseAdjustment({ kind, radius }), opacity }))
const list = fc.array(fc.oneof({ arbitrary: layer, weight: 4 }, { arbitrary: effect, weight: 1 }), {
  minLength: 2,
  maxLength: 7,
})
/** In a group by themselves, too. */
const composition = fc
  .tuple(list, fc.boolean())
  .map(([nodes, grouped]): Node[] =>
    grouped ? [nodes[0], { kind: 'group', passThrough: false, opacity: 1, children: nodes.slice(1) }] : nodes,
  )
const keyed = (nodes: readonly Node[], under = ''): Node[] =>
  nodes.map((node, i) => ({
    ...node,
    key: `${under}${i}`,
    ...(node.kind === 'group' ? { children: keyed(node.children, `${under}${i} `) } : {}),
  }))
/** The same, of which the renderer does not know that anything hides anything. */
const unknowing = (nodes: readonly Node[]): Node[] =>
  nodes.map((node) =>
    node.kind === 'picture'
      ? { ...node, picture: { ...node.picture, opaque: false } }
      : node.kind === 'group'
        ? { ...node, children: unknowing(node.children) }
        : node,
  )

const drawnBy = (nodes: readonly Node[], level: number, tile: number): Uint8ClampedArray => {
  const renderer = new Renderer(1 << 24),
    side = 2 ** level,
    width = Math.ceil(CANVAS.width / side),
    height = Math.ceil(CANVAS.height / side),
    out = new Uint8ClampedArray(width * height * 4)
  renderer.show(nodes, { canvas: CANVAS })
  for (let y = 0; y < height; y += tile)
    for (let x = 0; x < width; x += tile) {
      const part = { level, x, y, width: Math.min(tile, width - x), height: Math.min(tile, height - y) },
        { data } = renderer.region(part)
      for (let row = 0; row < part.height; row++)
        out.set(data.subarray(row * part.width * 4, (row + 1) * part.width * 4), ((y + row) * width + x) * 4)
    }
  return out
}

it('leaving out what is hidden changes no pixel by more than rounding, whatever lies on what', () => {
  fc.assert(
    fc.property(composition, fc.nat(2), fc.constantFrom(64, 256, 512), (nodes, level, tile) => {
      const drawn = drawnBy(keyed(nodes), level, tile),
        whole = drawnBy(keyed(unknowing(nodes)), level, 512)
      expect(drawn.reduce((most, v, i) => Math.max(most, Math.abs(v - whole[i])), 0)).toBeLessThanOrEqual(1)
    }),
    { numRuns: 40 },
  )
})

it('pieces fill the region, each pixel once, and something hides all of one of them', () => {
  fc.assert(
    fc.property(list, fc.nat(CANVAS.width), fc.nat(CANVAS.height), (nodes, x, y) => {
      const region = { level: 0, x, y, width: 200, height: 150 },
        from = lastCover(nodes, nodes.length, region),
        parts = pieces(nodes, from, nodes.length, region)
      if (!parts) return
      const times = new Uint8Array(region.width * region.height)
      for (const part of parts)
        for (let row = part.y; row < part.y + part.height; row++)
          for (let column = part.x; column < part.x + part.width; column++)
            times[(row - y) * region.width + column - x]++
      expect(times.every((n) => n === 1)).toBe(true)
      expect(lastCover(nodes, nodes.length, parts[0])).toBeGreaterThan(from)
    }),
  )
})

it('a blur hides what is there only where it is all of what shows', () => {
  const region = { level: 0, x: 0, y: 0, width: 64, height: 64 },
    [below, blur] = [
      { kind: 'picture', picture: { levels: pyramids[0], opaque: false }, toCanvas: translation(0, 0), opacity: 1 },
      { kind: 'adjust', adjustment: parseAdjustment({ kind: 'gaussianBlur', radius: 9 }), opacity: 1 },
    ] as [PictureNode, Node]
  expect(lastCover([below, blur], 2, region)).toBe(1)
  for (const more of [
    { opacity: 0.9 },
    { blend: 'screen' as const },
    { atop: true },
    { mask: { levels: [{ width: 1, height: 1, data: new Uint8Array([255]) }], toCanvas: translation(0, 0) } },
    { adjustment: parseAdjustment({ kind: 'gaussianBlur', radius: 0 }) },
  ])
    expect(lastCover([below, { ...blur, ...more }], 2, region)).toBe(0)
})
