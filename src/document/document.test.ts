import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import { apply } from '@/core/raster/affine'
import {
  addStep,
  changeStep,
  clearSteps,
  homeToCanvas,
  makeMask,
  moveStep,
  picksBackground,
  projectOf,
  recipeAt,
  removeStep,
  renameProject,
  switchBackground,
} from './edits'
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
  activateLayer,
} from './layers'
import { adjustLayer, fillLayer, paintLayer } from './layerRecords'
import { changePaint, paint, removePaint } from './painting'
import { cutOut, eraseSelected, isolate, liftCopy } from './pieces'
import { changeMask, copyMask, moveMask, removeMask, setMask, switchMask } from './masks'
import {
  ancestorsOf,
  belowOf,
  childrenOf,
  picturesOfProject,
  mergedDown,
  rowsOf,
  sceneOfArea,
  tooDeep,
  withDescendants,
  clipBaseOf,
  clippedAlong,
} from './tree'
import {
  type Act,
  type Edit,
  EMPTY_HISTORY,
  goTo,
  type History,
  historyOf,
  perform,
  redo,
  undo,
  RefusedEdit,
} from './history'
import { type Project, SELECTION } from './records'
import { parseProject, ProjectError } from './validate'
import { LONGEST_LENGTH } from '@/core/fields/fields'
import { LIMITS } from './limits'

const asset = 'a'.repeat(64),
  other = 'b'.repeat(64)
const start = projectOf('Poster', { asset, width: 600, height: 400, name: 'Otter' }, 'otter')
const pick = (id: string) => parseStep({ kind: 'similarColour', id, at: [3, 4] })
const box = (id: string) => parseStep({ kind: 'rectangle', id, x: 1, y: 2, width: 3, height: 4 })

let counter = 0
const id = () => `00000000-0000-4000-8000-${(++counter).toString(16).padStart(12, '0')}`
const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) => perform(state, EMPTY_HISTORY, 'edit', edit, id(), '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )

const names = fc.constantFrom('s1', 's2', 's3')
const homes = fc.constantFrom(SELECTION, { kind: 'mask' as const, layer: 'otter' })
const edits: fc.Arbitrary<Edit> = fc.oneof(
  fc.tuple(homes, names).map(([home, name]) => addStep(home, pick(`${name}-${++counter}`))),
  homes.map((home) => addStep(home, box(`b-${++counter}`))),
  fc.tuple(homes, names, fc.nat(255)).map(([home, name, tolerance]) => changeStep(home, name, { tolerance })),
  fc.tuple(homes, names).map(([home, name]) => removeStep(home, name)),
  fc.tuple(homes, names, fc.nat(3)).map(([home, name, to]) => moveStep(home, name, to)),
  homes.map(clearSteps),
  fc.tuple(homes, fc.boolean()).map(([home, on]) => switchBackground(home, on, `i-${++counter}`)),
  fc.constantFrom(
    makeMask('otter'),
    removeMask('otter'),
    switchMask('otter', false),
    removeLayer('otter'),
    moveLayer('otter', 0),
  ),
  fc
    .nat(5)
    .map((n) =>
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, `quay-${++counter}`, n % 2 ? 'otter' : null),
    ),
  fc.double({ min: 0, max: 1, noNaN: true }).map((opacity) => changeLayer('otter', { opacity })),
  fc.string({ maxLength: 9 }).map(renameProject),
)

const canvas = { width: 600, height: 400 }
const red = { kind: 'colour', colour: '#cc2211' } as const
const stroke = (x: number) =>
  parseStep({
    kind: 'paint',
    id: `p-${++counter}`,
    strokes: [
      {
        points: [
          [x, 5],
          [x + 9, 9],
        ],
        size: 12,
      },
    ],
  }) as StepOfKind<'paint'>
const NOWHERE = { version: 1, steps: [] } as const
/** Acts of composing on layers that may or may not be there. */
const which = fc.constantFrom('otter', 'fill', 'paint', 'tone', 'group', 'group2', 'nobody')
const composing: fc.Arbitrary<Edit> = fc.oneof(
  fc
    .constantFrom<Edit>(
      addLayer(fillLayer('fill', 'Fill', canvas, red), 'otter'),
      addLayer(paintLayer('paint', 'Paint', canvas), null),
      addLayer(adjustLayer('tone', 'Tone', canvas, parseAdjustment({ kind: 'exposure', stops: 1 })), 'otter'),
    )
    .map((edit): Edit => (project) => {
      if (!['fill', 'paint', 'tone'].some((name) => project.layers.some((l) => l.id === name))) edit(project)
    }),
  fc
    .tuple(
      fc.subarray(['otter', 'fill', 'paint', 'tone', 'group'], { minLength: 1 }),
      fc.constantFrom('group', 'group2'),
      fc.boolean(),
    )
    .map(([ids, group, through]): Edit => (project) => {
      if (!project.layers.some((l) => l.id === group))
        groupLayers(
          ids.filter((each) => each !== group),
          group,
          'Group',
          through,
        )(project)
    }),
  which.map(ungroup),
  which.map((name) => duplicateLayer(name, id)),
  which.map(removeLayer),
  which.map(isolate),
  fc.tuple(which, fc.constantFrom<1 | -1>(1, -1)).map(([name, by]) => stepLayer(name, by)),
  fc
    .tuple(which, fc.nat(4), fc.constantFrom<string | null | undefined>('group', 'group2', null, undefined))
    .map(([name, to, parent]): Edit => (project) => {
      if (!parent || project.layers.some((l) => l.id === parent && l.kind === 'group'))
        moveLayer(name, to, parent)(project)
    }),
  which.map((name) => liftCopy(name, id)),
  which.map((name) => cutOut(name, id)),
  which.map((name) => eraseSelected(name, id)),
  fc.tuple(which, which).map(([a, b]) => copyMask(a, b)),
  fc
    .tuple(
      which,
      fc.constantFrom<[number, number, number, number, number, number]>(
        [1, 0, 0, 1, 5, 6],
        [0, 0, 0, 1, 0, 0],
        [1000, 0, 0, 1000, 0, 0],
        [0.6, 0.8, -0.8, 0.6, 3, 4],
      ),
    )
    .map(([name, to]) => placeLayer(name, to)),
  fc
    .tuple(
      which,
      fc.constantFrom({ invert: true }, { strength: 0.4, feather: 9 }, { unlinked: true }, { outsideShown: true }),
    )
    .map(([name, change]) => changeMask(name, change)),
  which.map((name) => moveMask(name, [1, 0, 0, 1, 7, 0])),
  which.map((name) => setMask(name, { version: 1, steps: [parseStep({ kind: 'all', id: 'all' })] })),
  fc
    .tuple(
      which,
      fc.constantFrom(
        { blend: 'multiply' as const },
        { blend: 'normal' as const },
        { clipped: true },
        { locked: true },
        { locked: false },
        { visible: false },
      ),
    )
    .map(([name, change]) => changeLayer(name, change)),
  fc
    .tuple(fc.nat(90), fc.boolean())
    .map(([x, erase]) => paint('paint', `i-${++counter}`, { fill: red, erase, within: NOWHERE }, stroke(x))),
  fc.constant(changePaint('paint', 'i-1', { strength: 0.5 })),
  fc.constant(removePaint('paint', 'i-1')),
  fc
    .tuple(fc.subarray(['otter', 'fill', 'group'], { minLength: 1 }), fc.boolean())
    .map(([ids, instead]) =>
      mergeInto({ asset: other, width: 600, height: 400, name: 'Merged' }, `merged-${++counter}`, ids, instead),
    ),
)

describe('history', () => {
  it('random acts, all undone, give the start; all redone, the end; and every state on the way is valid', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(edits, composing), { maxLength: 25 }), (list) => {
        let state: { project: Project; history: History } = { project: start, history: EMPTY_HISTORY }
        for (const edit of list) {
          state = perform(state.project, state.history, 'edit', edit, id(), '2026-01-01T00:00:00Z') ?? state
          expect(() => parseProject(JSON.parse(JSON.stringify(state.project)))).not.toThrow()
        }
        const end = state.project
        for (let back = undo(state.project, state.history); back; back = undo(state.project, state.history))
          state = back
        expect(state.project).toEqual(start)
        for (let on = redo(state.project, state.history); on; on = redo(state.project, state.history)) state = on
        expect(state.project).toEqual(end)
      }),
      { numRuns: 150 },
    )
  })
  it('doing something else after undoing keeps the other branch, and any act can be gone back to', () => {
    const one = perform(start, EMPTY_HISTORY, 'one', renameProject('one'), 'a1', '')!
    const two = perform(one.project, one.history, 'two', renameProject('two'), 'a2', '')!
    const back = undo(two.project, two.history)!
    const three = perform(back.project, back.history, 'three', renameProject('three'), 'a3', '')!
    const again = goTo(three.project, three.history, 'a2')
    expect(again.project.name).toBe('two')
    expect(goTo(again.project, again.history, 'a3').project.name).toBe('three')
    expect(goTo(again.project, again.history, null).project).toEqual(start)
    const reopened = historyOf([...again.history.acts.values()] as Act[], 'a1')
    expect(redo(one.project, reopened)!.project.name).toBe('three')
    expect(() => goTo(start, EMPTY_HISTORY, 'nowhere')).toThrow(RangeError)
  })
  it('an edit that changes nothing is no act', () => {
    expect(perform(start, EMPTY_HISTORY, 'same', renameProject('Poster'), 'x', '')).toBeNull()
  })
})

describe('edits', () => {
  it('while the background is picked, further steps come before the closing invert', () => {
    const project = run(
      start,
      addStep(SELECTION, pick('s1')),
      switchBackground(SELECTION, true, 'turn'),
      addStep(SELECTION, pick('s2')),
    )
    expect(project.selection.steps.map((s) => s.id)).toEqual(['s1', 's2', 'turn'])
    expect(picksBackground(project.selection)).toBe(true)
    expect(run(project, switchBackground(SELECTION, false, 'x')).selection.steps.map((s) => s.id)).toEqual(['s1', 's2'])
  })
  it('a mask keeps its steps and what they look at, and its steps follow the layer wherever it goes', () => {
    const masked = run(
      start,
      addStep(SELECTION, pick('s1')),
      makeMask('otter'),
      placeLayer('otter', [2, 0, 0, 2, 50, 60]),
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, 'quay', 'otter'),
    )
    expect(masked.selection.steps).toEqual([])
    const home = { kind: 'mask' as const, layer: 'otter' }
    expect(recipeAt(masked, home)!.steps.map((s) => s.id)).toEqual(['s1'])
    expect(masked.layers.map((l) => l.id)).toEqual(['quay', 'otter'])
    expect(sceneOfArea(masked.layers[1].mask!, masked.scenes!).layers.map((l) => l.id)).toEqual(['otter'])
    expect(picturesOfProject(masked).map((p) => p.asset)).toEqual([other, asset])
    expect(apply(homeToCanvas(masked, home), 3, 4)).toEqual([56, 68])
    expect(parseProject(JSON.parse(JSON.stringify(masked)))).toEqual(masked)
  })
  it('an added picture covers the canvas, in its middle', () => {
    const { placement } = run(
      start,
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, 'quay', 'otter'),
    ).layers[0]
    expect(placement[0]).toBe(2)
    expect(apply(placement, 150, 150)).toEqual([300, 200])
  })
})

describe('records from outside', () => {
  const json = () => JSON.parse(JSON.stringify(start))
  it.each([
    [
      'a missing asset',
      (p: ReturnType<typeof json>) => {
        p.layers[0].asset = 'zz'
      },
      'layers[0].asset: takes a SHA-256',
    ],
    [
      'an opacity of two',
      (p) => {
        p.layers[0].opacity = 2
      },
      'layers[0].opacity: takes a number from 0 to 1',
    ],
    [
      'a canvas of a thousand megapixels',
      (p) => {
        p.canvas = { width: 39000, height: 39000 }
      },
      'canvas: takes at most 150 megapixels',
    ],
    [
      'NaN in a placement',
      (p) => {
        p.layers[0].placement[0] = null
      },
      'layers[0].placement: takes six finite numbers',
    ],
    [
      'two layers of one id',
      (p) => {
        p.layers.push(p.layers[0])
      },
      'layers: takes layers with ids of their own',
    ],
    [
      'an active layer that is not there',
      (p) => {
        p.activeLayer = 'gone'
      },
      'activeLayer: takes the id of a layer',
    ],
    [
      'another version',
      (p) => {
        p.version = 9
      },
      'project.version: takes 1',
    ],
  ] as [string, (p: ReturnType<typeof json>) => void, string][])(
    '%s is refused with its path',
    (_, spoil, sentence) => {
      const project = json()
      spoil(project)
      expect(() => parseProject(project)).toThrow(ProjectError)
      expect(() => parseProject(project)).toThrow(sentence)
    },
  )
  it('masks nested without end are refused', () => {
    const project = json()
    let layer = project.layers[0]
    for (let i = 0; i < 12; i++) {
      layer.mask = {
        recipe: { version: 1, steps: [] },
        enabled: true,
        frame: { width: 1, height: 1 },
        toLayer: [1, 0, 0, 1, 0, 0],
        scene: [JSON.parse(JSON.stringify({ ...start.layers[0] }))],
        sceneLayer: 'otter',
      }
      layer = layer.mask.scene[0]
    }
    expect(() => parseProject(project)).toThrow('nested deeper than 8')
  })
})

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

describe('what may be kept', () => {
  const label = 'l'.repeat(195)
  const perf = (project: Project, edit: Edit) =>
    perform(project, EMPTY_HISTORY, `Rename to ${label}`, edit, id(), '2026-01-01T00:00:00Z')
  it('names and labels of any length, with NUL and half pairs, are cut to what the server takes', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 12 }),
          fc.constantFrom('n'.repeat(10_000), '\0', '\ud83d', `${'a'.repeat(199)}\u{1f9a6}`),
        ),
        (name) => {
          for (const edit of [renameProject(name), changeLayer('otter', { name })]) {
            const done = perf(start, edit)
            if (!done) continue
            expect(done.act.label.length).toBeLessThanOrEqual(LIMITS.label)
            expect(() => parseProject(JSON.parse(JSON.stringify(done.project)))).not.toThrow()
            // jsonb takes every text but NUL and half pairs. Source: PostgreSQL 15, section 8.14.
            expect(/[\0\p{Surrogate}]/u.test(JSON.parse(JSON.stringify(done.project.name)) as string)).toBe(false)
          }
        },
      ),
    )
  })
  it('the 501st layer and the 1001st step are refused in a sentence, and nothing of them counts', () => {
    const many =
      (count: number): Edit =>
      (project) => {
        for (let i = 0; i < count; i++) project.layers.push({ ...fillLayer(`f${i}`, 'Fill', canvas, red) } as never)
      }
    expect(perf(start, many(LIMITS.layers - 1))!.project.layers).toHaveLength(LIMITS.layers)
    expect(() => perf(start, many(LIMITS.layers))).toThrow(/up to 500 layers/)
    const steps =
      (count: number): Edit =>
      (project) => {
        for (let i = 0; i < count; i++) project.selection.steps.push(box(`s${i}`) as never)
      }
    expect(perf(start, steps(1000))).not.toBeNull()
    expect(() => perf(start, steps(1001))).toThrow(RefusedEdit)
  })
  it('45 strokes on top of 400 take the room of 45, in whatever way the list was made', () => {
    const strokes = (count: number) =>
      Array.from({ length: count }, (_, i) => ({
        points: Array.from({ length: 40 }, (_, k) => [i + k, k * 3.25]),
        size: 12,
      }))
    const painted = run(start, addStep(SELECTION, parseStep({ kind: 'paint', id: 'p', strokes: strokes(400) })))
    const added = JSON.stringify(strokes(445).slice(400)).length
    const { act } = perf(painted, changeStep(SELECTION, 'p', { strokes: strokes(445) }))!
    expect(JSON.stringify(act).length).toBeLessThan(added + 1000)
  })
  it('scenes that look at themselves are refused', () => {
    const looping = run(start, addStep(SELECTION, pick('a'))),
      [scene] = looping.scenes!
    const masked = {
      ...looping.layers[0],
      mask: {
        recipe: { version: 1, steps: [] },
        frame: canvas,
        scene: scene.id,
        sceneLayer: '',
        saved: [],
        enabled: true,
        toLayer: [1, 0, 0, 1, 0, 0],
      },
    }
    expect(() => parseProject({ ...looping, scenes: [{ ...scene, layers: [masked] }] })).toThrow(/looks at itself/)
  })
  it('lengths beyond what any canvas can use are read as the longest that makes a difference', () => {
    expect(parseStep({ kind: 'feather', radius: 1e7 })).toMatchObject({ radius: LONGEST_LENGTH })
    expect(parseStep({ kind: 'rectangle', x: 0, y: 0, width: 5, height: 5, grow: -1e7 })).toMatchObject({
      grow: -LONGEST_LENGTH,
    })
    expect(parseStep({ kind: 'feather', radius: 12 })).toMatchObject({ radius: 12 })
  })
  it('acts of earlier versions, told by places, are undone and redone as before', () => {
    const old = historyOf(
      [
        {
          id: 'old',
          parent: null,
          label: 'Rename',
          forward: [{ op: 'replace', path: ['name'], value: 'Before' }],
          inverse: [{ op: 'replace', path: ['name'], value: 'Poster' }],
          at: '',
        },
      ],
      'old',
    )
    const now = { ...start, name: 'Before' }
    expect(undo(now, old)!.project.name).toBe('Poster')
    expect(goTo(start, { ...old, head: null }, 'old').project.name).toBe('Before')
  })
})

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
