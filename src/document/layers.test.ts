import { describe, expect, it } from 'vitest'
import { apply } from '@/core/raster/affine'
import { addStep, homeToCanvas } from './edits'
import {
  addLayer,
  addPicture,
  changeLayer,
  duplicateLayer,
  groupLayers,
  mergeInto,
  moveLayer,
  placeLayer,
  removeLayer,
  stepLayer,
  ungroup,
} from './layers'
import { fillLayer, paintLayer } from './layerRecords'
import { paint } from './painting'
import { cutOut } from './pieces'
import { moveMask, removeMask, setMask } from './masks'
import { ancestorsOf } from './shown'
import { belowOf, childrenOf, rowsOf, tooDeep, withDescendants } from './tree'
import { type Project, SELECTION } from './records'
import { parseProject } from './validate'
import { LIMITS } from './limits'
import { other, start, pick, box, run, canvas, red, stroke, NOWHERE } from '../../tests/setups/document'

describe('layers', () => {
  const grouped = () =>
    run(
      start,
      addLayer(fillLayer('fill', 'Fill', canvas, red), 'otter'),
      addLayer(paintLayer('paint', 'Paint', canvas), 'fill'),
      groupLayers(['otter', 'fill'], 'group', 'Group'),
    )
  const shape = (project: Project) =>
    rowsOf(project.layers).map(({ layer, depth }) => `${'  '.repeat(depth)}${layer.id}`)

  it('a group takes the place of its uppermost layer, and ungrouping gives the order back', () => {
    const project = grouped()
    expect(shape(project)).toEqual(['paint', 'group', '  fill', '  otter'])
    expect(shape(run(project, ungroup('group')))).toEqual(['paint', 'fill', 'otter'])
    expect(rowsOf(project.layers, new Set(['group'])).map((row) => row.layer.id)).toEqual(['paint', 'group'])
    expect(belowOf(project.layers, 'paint')!.id).toBe('group')
    expect(belowOf(project.layers, 'otter')).toBeUndefined()
  })
  it('by keys a layer walks through every place, into groups and out again', () => {
    let project = grouped()
    const seen = []
    for (let i = 0; i < 4; i++) {
      project = run(project, stepLayer('paint', -1))
      seen.push(shape(project).join(' ').replaceAll('  ', '>'))
    }
    expect(seen).toEqual([
      'group> paint> fill> otter',
      'group> fill> paint> otter',
      'group> fill> otter> paint',
      'group> fill> otter paint',
    ])
    for (let i = 0; i < 4; i++) project = run(project, stepLayer('paint', 1))
    expect(shape(project)).toEqual(['paint', 'group', '  fill', '  otter'])
  })
  it('layers merged into one are laid in as the lowest of them was, so a mask applied for good changes nothing else', () => {
    const picture = { asset: other, width: 600, height: 400, name: 'Merged' }
    const project = run(
      grouped(),
      changeLayer('fill', { blend: 'multiply', clipped: true, opacity: 0.5 }),
      mergeInto(picture, 'merged', ['fill'], true),
    )
    expect(project.layers.find((l) => l.id === 'merged')).toMatchObject({
      blend: 'multiply',
      clipped: true,
      opacity: 1,
      parent: 'group',
    })
    const beside = run(
      grouped(),
      changeLayer('fill', { blend: 'multiply' }),
      mergeInto(picture, 'merged', ['fill'], false),
    ).layers.find((l) => l.id === 'merged')!
    expect([beside.blend, beside.parent]).toEqual([undefined, 'group'])
  })
  it('a group cannot go into itself; removing it removes what lies in it; a copy has ids of its own', () => {
    const project = run(grouped(), groupLayers(['group'], 'outer', 'Outer'))
    expect(shape(run(project, moveLayer('outer', 0, 'group')))).toEqual(shape(project))
    expect(shape(run(project, removeLayer('outer')))).toEqual(['paint'])
    let n = 0
    const copied = run(
      project,
      duplicateLayer('group', () => `copy${n++}`),
    )
    expect(new Set(copied.layers.map((l) => l.id)).size).toBe(copied.layers.length)
    expect(
      childrenOf(copied.layers, 'copy2').length +
        childrenOf(copied.layers, 'copy0').length +
        childrenOf(copied.layers, 'copy1').length,
    ).toBe(2)
    expect(withDescendants(copied.layers, 'outer')).toHaveLength(7)
  })
  it('groups may lie 20 deep, not deeper', () => {
    let project = start
    for (let i = 0; i < LIMITS.groups; i++)
      project = run(project, groupLayers([i ? `g${i - 1}` : 'otter'], `g${i}`, 'Group'))
    expect(ancestorsOf(project.layers, 'otter')).toHaveLength(LIMITS.groups)
    expect(() => parseProject(project)).not.toThrow()
    expect(() => parseProject(run(project, groupLayers([`g${LIMITS.groups - 1}`], 'more', 'Group')))).toThrow(
      /up to 20 deep/,
    )
    expect([
      tooDeep(project.layers, ['otter'], 1),
      tooDeep(project.layers, [`g${LIMITS.groups - 1}`], 1),
      tooDeep(run(project, ungroup('g3')).layers, ['otter'], 1),
      tooDeep(run(project, ungroup('g3')).layers, ['otter'], 2),
    ]).toEqual([true, true, false, true])
  })
  it('a placement without area, or of 100 000 %, is kept and can be undone', () => {
    const flat = run(start, placeLayer('otter', [0, 0, 0, 0, 0, 0])),
      huge = run(flat, placeLayer('otter', [1000, 0, 0, 1000, 0, 0]))
    expect(() => parseProject(flat)).not.toThrow()
    expect(huge.layers[0].placement[0]).toBe(1000)
  })
  it('moving a group moves all in it; a mask that is not linked stays', () => {
    const project = run(
      grouped(),
      setMask('otter', { version: 1, steps: [box('b')] }, { unlinked: true }),
      placeLayer('group', [1, 0, 0, 1, 30, 40]),
    )
    expect(project.layers.find((l) => l.id === 'fill')!.placement.slice(4)).toEqual([30, 40])
    expect(apply(homeToCanvas(project, { kind: 'mask', layer: 'otter' }), 10, 10)).toEqual([10, 10])
    expect(
      apply(
        homeToCanvas(run(project, moveMask('otter', [2, 0, 0, 2, 1, 1])), { kind: 'mask', layer: 'otter' }),
        10,
        10,
      ),
    ).toEqual([21, 21])
  })
  it('strokes of one colour join in one item; another colour, or another selection, begins a new one, limited to what is selected', () => {
    const painted = run(
      grouped(),
      paint('paint', 'i1', { fill: red, erase: false, within: NOWHERE }, stroke(1)),
      paint('paint', 'i2', { fill: red, erase: false, within: NOWHERE }, stroke(30)),
      paint('paint', 'i3', { fill: red, erase: false, within: { version: 1, steps: [box('b')] } }, stroke(60)),
    )
    const layer = painted.layers.find((l) => l.id === 'paint')!
    if (layer.kind !== 'paint') throw new Error('not paint')
    expect(
      layer.items.map((item) =>
        item.area.recipe.steps.map((s) => [
          s.kind,
          (s as { op?: string }).op,
          (s as { strokes?: unknown[] }).strokes?.length,
        ]),
      ),
    ).toEqual([
      [['paint', 'add', 2]],
      [
        ['rectangle', 'add', undefined],
        ['paint', 'intersect', 1],
      ],
    ])
  })
  it('cutting lays the piece and the rest into a group by themselves', () => {
    let n = 0
    const cut = run(
      start,
      addStep(SELECTION, box('b')),
      cutOut('otter', () => `n${n++}`),
    )
    expect(
      rowsOf(cut.layers).map(({ layer, depth }) => [
        depth,
        layer.name,
        layer.joins ?? false,
        layer.mask?.recipe.steps.map((s) => s.kind),
      ]),
    ).toEqual([
      [0, 'Otter in pieces', false, undefined],
      [1, 'Otter piece', true, ['rectangle']],
      [1, 'Otter', false, ['rectangle', 'invert']],
    ])
    expect(cut.scenes).toHaveLength(2)
  })
  it('scenes are kept once however many masks look at them', () => {
    const masks = run(
      start,
      addStep(SELECTION, pick('a')),
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, 'quay', null),
      setMask('otter', { version: 1, steps: [] }),
      removeMask('otter'),
      setMask('otter', { version: 1, steps: [] }),
    )
    expect(masks.scenes).toHaveLength(2) // one the pick looks at, one both masks look at
  })
  it('refuses what does not hold together, naming the field', () => {
    const wrong = (change: (project: Record<string, never>) => void) => {
      const copy = JSON.parse(JSON.stringify(grouped()))
      change(copy)
      return () => parseProject(copy)
    }
    const of = (project: Record<string, never>, name: string) =>
      (project.layers as unknown as Record<string, unknown>[]).find((l) => l.id === name)!
    expect(
      wrong((p) => {
        of(p, 'fill').parent = 'otter'
      }),
    ).toThrow(/parent: takes the id of a group/)
    expect(
      wrong((p) => {
        of(p, 'group').parent = 'group'
      }),
    ).toThrow(/does not lie in this one/)
    expect(
      wrong((p) => {
        of(p, 'fill').blend = 'glow'
      }),
    ).toThrow(/blend: takes one of normal/)
    expect(
      wrong((p) => {
        of(p, 'fill').fill = { kind: 'colour', colour: 'red' }
      }),
    ).toThrow(/fill: takes a colour as #rrggbb/)
    expect(
      wrong((p) => {
        of(p, 'otter').mask = {
          recipe: NOWHERE,
          frame: canvas,
          scene: 'gone',
          sceneLayer: 'otter',
          saved: [],
          enabled: true,
          toLayer: [1, 0, 0, 1, 0, 0],
        }
      }),
    ).toThrow(/the scene gone/)
  })
})
