import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { adjustLayer, fillLayer, groupOf } from './layerRecords'
import { openRasterTree, type OraLayer, type OraNode, type OraStack } from './openRasterTree'
import { type Layer } from './records'

const SIZE = { width: 40, height: 30 }
const fill = (id: string, more: Partial<Layer> = {}) =>
  ({ ...fillLayer(id, id, SIZE, { kind: 'colour', colour: '#336699' }), ...more }) as Layer
const group = (id: string, passThrough: boolean, more: Partial<Layer> = {}) =>
  ({ ...groupOf(id, id, SIZE, passThrough), ...more }) as Layer
const darker = (id: string, more: Partial<Layer> = {}) =>
  ({ ...adjustLayer(id, id, SIZE, parseAdjustment({ kind: 'exposure' }, 'test')), ...more }) as Layer
const names = (nodes: readonly OraNode[]): unknown =>
  nodes.map((node) => (node.kind === 'layer' ? node.name : [node.name, names(node.children)]))

describe('layers as OpenRaster has them', () => {
  it('opacity, visibility and modes stay values of their own', () => {
    const [node] = openRasterTree([fill('a', { opacity: 0.5, visible: false, blend: 'multiply' })])
    expect(node).toMatchObject({ opacity: 0.5, visible: false, operator: 'svg:multiply' })
    expect((node as OraLayer).draw[0]).toMatchObject({ opacity: 1, visible: true })
    expect((node as OraLayer).draw[0].blend).toBeUndefined()
  })
  it('groups are stacks, isolated or not', () => {
    const tree = openRasterTree([
      group('g', true),
      fill('a', { parent: 'g' }),
      group('h', false),
      fill('b', { parent: 'h' }),
    ])
    expect(tree.map((node) => (node as OraStack).isolated)).toEqual([false, true])
    expect(names(tree)).toEqual([['g', ['a']], ['h', ['b']]]) // prettier-ignore
  })
  it('what is clipped lies atop in a stack with its base', () => {
    const [stack] = openRasterTree([fill('base', { blend: 'screen' }), fill('on', { clipped: true })]) as OraStack[]
    expect(stack).toMatchObject({ isolated: true, operator: 'svg:screen' })
    expect(stack.children.map(({ operator }) => operator)).toEqual(['svg:src-over', 'svg:src-atop'])
  })
  it('an adjustment becomes a picture of what lies below it, and that stays, hidden', () => {
    const tree = openRasterTree([fill('a'), fill('b'), darker('adjust'), fill('c')])
    expect(names(tree)).toEqual([['adjust: what lies below', ['a', 'b']], 'adjust', 'c'])
    expect(tree[0].visible).toBe(false)
    expect((tree[1] as OraLayer).draw.map(({ id }) => id)).toEqual(['a', 'b', 'adjust'])
  })
  it('one in a group that is passed through takes what lies below the group, too', () => {
    const tree = openRasterTree([
      fill('a'),
      group('g', true),
      fill('b', { parent: 'g' }),
      darker('adjust', { parent: 'g' }),
    ])
    expect((tree.at(-1) as OraLayer).draw.map(({ id }) => id)).toEqual(['a', 'g', 'b', 'adjust'])
  })
  it('a hidden adjustment is left out; a mode without a name is drawn', () => {
    expect(names(openRasterTree([fill('a'), darker('adjust', { visible: false })]))).toEqual(['a'])
    expect(openRasterTree([fill('a'), fill('b', { blend: 'exclusion' })]).at(-1)).toMatchObject({
      operator: 'svg:src-over',
      name: 'b',
    })
  })
})
