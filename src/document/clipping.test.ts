import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { addLayer, changeLayer, mergeInto, removeLayer, activateLayer } from './layers'
import { adjustLayer, fillLayer, paintLayer } from './layerRecords'
import { mergedDown, clipBaseOf, clippedAlong } from './tree'
import { other, start, run, canvas, red } from '../../tests/setups/document'

describe('clipping and merging', () => {
  const exposure = (name: string) => adjustLayer(name, name, canvas, parseAdjustment({ kind: 'exposure', stops: 1 }))
  it('several adjustments are clipped to one picture; nothing is clipped to an adjustment alone', () => {
    const two = run(
      start,
      addLayer(exposure('one'), 'otter'),
      changeLayer('one', { clipped: true }),
      addLayer(exposure('two'), 'one'),
    )
    expect(clipBaseOf(two.layers, 'two')?.id).toBe('otter')
    const open = run(start, addLayer(exposure('one'), 'otter'), addLayer(exposure('two'), 'one'))
    expect(clipBaseOf(open.layers, 'two')).toBeUndefined()
    expect(clipBaseOf(open.layers, 'one')?.id).toBe('otter')
    expect(clipBaseOf(open.layers, 'otter')).toBeUndefined()
  })
  it('clipping, and merging downwards, go through adjustments to the next layer with pixels', () => {
    const both = run(start, addLayer(exposure('one'), 'otter'), addLayer(fillLayer('fill', 'Fill', canvas, red), 'one'))
    const ids = (layers: readonly { id: string }[]) => layers.map(({ id }) => id)
    expect(ids(clippedAlong(both.layers, 'fill'))).toEqual(['fill', 'one'])
    expect(ids(mergedDown(both.layers, 'fill'))).toEqual(['otter', 'one', 'fill'])
    // The other order: the adjustment first, then what lies above it.
    const first = run(both, changeLayer('one', { clipped: true }))
    expect(ids(clippedAlong(first.layers, 'fill'))).toEqual(['fill'])
    expect(clipBaseOf(first.layers, 'fill')?.id).toBe('otter')
    const alone = run(both, removeLayer('otter'))
    expect(clippedAlong(alone.layers, 'fill')).toEqual([])
    expect(mergedDown(alone.layers, 'fill')).toEqual([])
  })
  it('what is not clipped is not lost by merging it with what is', () => {
    const clipped = run(
      start,
      addLayer(fillLayer('fill', 'Fill', canvas, red), 'otter'),
      changeLayer('fill', { clipped: true }),
      addLayer(paintLayer('paint', 'Paint', canvas), 'fill'),
    )
    expect(mergedDown(clipped.layers, 'paint').map(({ id }) => id)).toEqual(['otter', 'fill', 'paint'])
    const all = run(clipped, changeLayer('paint', { clipped: true }))
    expect(mergedDown(all.layers, 'paint').map(({ id }) => id)).toEqual(['fill', 'paint'])
  })
  it('a merge leaves another layer that was chosen meanwhile chosen, as long as it is there', () => {
    const both = run(start, addLayer(exposure('one'), 'otter'), addLayer(fillLayer('fill', 'Fill', canvas, red), 'one'))
    const picture = { asset: other, width: 600, height: 400, name: 'Merged' }
    const merged = (active: string) =>
      run(both, activateLayer(active), mergeInto(picture, 'merged', ['otter', 'one'], true, false)).activeLayer
    expect(merged('fill')).toBe('fill')
    expect(merged('one')).toBe('merged')
  })
})
