import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { IDENTITY } from '@/core/raster/affine'
import { type Layer, type SceneRecord } from '@/document/records'
import { type SharedPicture } from './protocol'
import { ShownLayers } from './shownLayers'

const SIZE = { width: 10, height: 10 }
const layerOf = (asset: string, visible: boolean): Layer => ({
  id: `layer ${asset}`,
  name: asset,
  kind: 'picture',
  asset,
  ...SIZE,
  placement: IDENTITY,
  opacity: 1,
  visible,
  mask: null,
})
const scene = (layers: readonly Layer[]): SceneRecord => ({
  layers,
  active: null,
  canvas: SIZE,
  saved: [],
  scenes: [],
  linear: false,
})
const turn = () => new Promise((resolve) => setTimeout(resolve))

/** A picture worker and tiles that answer when they are told to, and count. */
function threads() {
  const open = new Map<string, number>(),
    delivered = new Set<string>(),
    waiting: (() => void)[] = []
  const count = (asset: string, by: number) => open.set(asset, (open.get(asset) ?? 0) + by)
  const picture = {
    open: (asset: string) => {
      count(asset, 1)
      return new Promise<SharedPicture>((resolve, reject) =>
        waiting.push(() => {
          if (asset === 'gone') {
            count(asset, -1) // as the worker does: what cannot be had is not open
            reject(new Error('It is gone.'))
          } else resolve({ levels: [], opaque: true, rarestHue: 0 })
        }),
      )
    },
    close: (asset: string) => count(asset, -1),
    keep: () => {},
  }
  const tile = {
    setPicture: async (name: string) => void delivered.add(name),
    dropPicture: async (name: string) => void delivered.delete(name),
    setLayers: async () => {},
  }
  const tiles = { tell: (say: (worker: typeof tile) => Promise<void>) => say(tile) }
  const shown = new ShownLayers(
    picture as never,
    tiles as never,
    { layersChanged: () => {}, making: () => {}, opened: () => {}, failed: () => {} } as never,
    new Int32Array(16),
    new Int32Array(1),
  )
  const answer = (which: number) => waiting.splice(which % Math.max(1, waiting.length), 1)[0]?.()
  return { shown, open, delivered, answer, left: () => waiting.length }
}

const ASSETS = ['a', 'b', 'c', 'gone'] as const
const change = fc.oneof(
  fc.record({ show: fc.uniqueArray(fc.tuple(fc.constantFrom(...ASSETS), fc.boolean()), { selector: ([asset]) => asset }) }),
  fc.record({ expect: fc.uniqueArray(fc.constantFrom(...ASSETS)) }),
  fc.record({ answer: fc.nat(5) }),
) // prettier-ignore

it('pictures are opened once while they are needed, and closed as often as they were opened, whenever they arrive', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(change, { maxLength: 14 }), async (changes) => {
      const { shown, open, delivered, answer, left } = threads(),
        all: Promise<void>[] = []
      for (const each of changes) {
        if ('show' in each)
          all.push(shown.setLayers(scene(each.show.map(([asset, visible]) => layerOf(asset, visible))), VIEW))
        else if ('expect' in each) shown.expect(each.expect)
        else answer(each.answer)
        await turn()
        expect(Math.max(0, ...open.values())).toBeLessThanOrEqual(1)
      }
      const layers = [layerOf('a', true), layerOf('b', false)]
      all.push(shown.setLayers(scene(layers), VIEW))
      shown.expect(['c'])
      for (let k = 0; k < 100 && (await turn(), left()); k++) answer(k)
      await Promise.all(all)
      await turn()
      expect([open.get('a'), open.get('c')]).toEqual([1, 1])
      expect(open.get('b') ?? 0).toBeLessThanOrEqual(1) // hidden: it stays where it was open
      expect(delivered.size).toBe([...open.values()].reduce((sum, n) => sum + n, 0))
      shown.expect([])
      await shown.setLayers(scene([]), VIEW)
      await turn()
      expect([...open.values()].every((n) => n === 0)).toBe(true)
      expect(delivered.size).toBe(0)
      shown.close()
    }),
    { numRuns: 60 },
  )
})
const VIEW = { size: SIZE, fromCanvas: IDENTITY }
