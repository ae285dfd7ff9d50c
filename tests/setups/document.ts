/** A project to change, ways to change it, and edits drawn at random. */
import fc from '../properties'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import {
  addStep,
  changeStep,
  clearSteps,
  makeMask,
  moveStep,
  projectOf,
  removeStep,
  renameProject,
  switchBackground,
} from '@/document/edits'
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
} from '@/document/layers'
import { adjustLayer, fillLayer, paintLayer } from '@/document/layerRecords'
import { changePaint, paint, removePaint } from '@/document/painting'
import { cutOut, eraseSelected, isolate, liftCopy } from '@/document/pieces'
import { changeMask, copyMask, moveMask, removeMask, setMask, switchMask } from '@/document/masks'
import { type Edit, EMPTY_HISTORY, perform } from '@/document/history'
import { type Project, SELECTION } from '@/document/records'

export const asset = 'a'.repeat(64),
  other = 'b'.repeat(64)
export const start = projectOf('Poster', { asset, width: 600, height: 400, name: 'Otter' }, 'otter')
export const pick = (id: string) => parseStep({ kind: 'similarColour', id, at: [3, 4] })
export const box = (id: string) => parseStep({ kind: 'rectangle', id, x: 1, y: 2, width: 3, height: 4 })

export let counter = 0
export const id = () => `00000000-0000-4000-8000-${(++counter).toString(16).padStart(12, '0')}`
export const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) => perform(state, EMPTY_HISTORY, 'edit', edit, id(), '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )

export const names = fc.constantFrom('s1', 's2', 's3')
export const homes = fc.constantFrom(SELECTION, { kind: 'mask' as const, layer: 'otter' })
export const edits: fc.Arbitrary<Edit> = fc.oneof(
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

export const canvas = { width: 600, height: 400 }
export const red = { kind: 'colour', colour: '#cc2211' } as const
export const stroke = (x: number) =>
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
export const NOWHERE = { version: 1, steps: [] } as const
/** Acts of composing on layers that may or may not be there. */
export const which = fc.constantFrom('otter', 'fill', 'paint', 'tone', 'group', 'group2', 'nobody')
export const composing: fc.Arbitrary<Edit> = fc.oneof(
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
