/** A step of the selection keeps the pixels and the layer it was made on. */
import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { parseStep } from '@/core/formats/recipe'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { addStep, lookAgain, makeMask, projectOf, saveSelection } from '@/document/edits'
import { EMPTY_HISTORY, type Edit, perform } from '@/document/history'
import { activateLayer, addLayer, addLayerWithin, addPicture, changeLayer, removeLayer } from '@/document/layers'
import { adjustLayer } from '@/document/layerRecords'
import { lookedOtherwise, picturesOfProject, sceneOfProject } from '@/document/tree'
import { type Project, SELECTION } from '@/document/records'
import { parseProject } from '@/document/validate'
import { anyEdit } from '../../tests/madeUp/edits'
import { randomOf } from '../../tests/madeUp/random'
import { Studio } from './studio'

const size = { width: 64, height: 48 }
const [BELOW, ABOVE] = ['a', 'b'].map((letter) => letter.repeat(64))
const picture = (red: number): Picture => ({
  ...size,
  data: Uint8ClampedArray.from({ length: size.width * size.height * 4 }, (_, i) => {
    const x = (i >> 2) % size.width
    return i % 4 === 3 ? 255 : i % 4 === 0 ? (x * 4 + red) % 256 : x * 2
  }),
})
const files = new Map([
  [BELOW, picture(0)],
  [ABOVE, picture(120)],
])
const studio = new Studio((asset) => {
  const file = files.get(asset)!
  return { levels: picturePyramid(file, isOpaque(file)), opaque: isOpaque(file) }
}, 1 << 27)
let ids = 0
const newId = () => `n${++ids}`
const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) => perform(state, EMPTY_HISTORY, 'edit', edit, newId(), '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )
const matte = (project: Project, steps = project.selection.steps) =>
  studio.matte(steps, studio.scene(sceneOfProject(project)), () => {}).data.slice()
const pick = (sample: 'all' | 'layer') =>
  parseStep({ kind: 'similarColour', id: 'pick', at: [20, 20], tolerance: 40, sample })
const start = projectOf('Page', { asset: BELOW, ...size, name: 'Below' }, 'below')
const exposure = (stops: number) => adjustLayer(newId(), 'Exposure', size, parseAdjustment({ kind: 'exposure', stops }))

describe('what a step of the selection looks at', () => {
  it('stays when an adjustment is added, when another layer is chosen, and when the layer is removed', () => {
    for (const sample of ['all', 'layer'] as const) {
      const selected = run(
        start,
        addPicture({ asset: ABOVE, ...size, name: 'Above' }, 'above', null),
        activateLayer('below'),
        addStep(SELECTION, pick(sample)),
      )
      const before = matte(selected)
      expect(before.some((v) => v > 0)).toBe(true)
      for (const edit of [addLayer(exposure(2), 'above'), activateLayer('above'), removeLayer('below')])
        expect(matte(run(selected, edit))).toEqual(before)
    }
  })
  it('is said to have changed where it has, and looking again takes what is there now', () => {
    const selected = run(start, addStep(SELECTION, pick('all'))),
      step = () => selected.selection.steps[0]
    expect(lookedOtherwise(selected, step())).toBe(false)
    expect(lookedOtherwise(run(selected, changeLayer('below', { name: 'Renamed' })), step())).toBe(false)
    const brighter = run(selected, addLayer(exposure(2), 'below'))
    expect(lookedOtherwise(brighter, step())).toBe(true)
    const again = run(brighter, lookAgain(SELECTION, 'pick'))
    expect(lookedOtherwise(again, again.selection.steps[0])).toBe(false)
    expect(matte(again)).not.toEqual(matte(selected))
    // A layer by itself is not changed by what is laid over it.
    const alone = run(start, addStep(SELECTION, pick('layer')), addLayer(exposure(2), 'below'))
    expect(lookedOtherwise(alone, alone.selection.steps[0])).toBe(false)
  })
  it('steps of earlier projects, which name no scene, look at what is there now', () => {
    const old = run(start, (project) => void project.selection.steps.push(pick('all') as never))
    expect(matte(run(old, addLayer(exposure(2), 'below')))).not.toEqual(matte(old))
  })
  it('goes along into a mask and into a saved selection', () => {
    const selected = run(start, addStep(SELECTION, pick('all')), addLayer(exposure(2), 'below'))
    const before = matte(selected)
    const masked = run(selected, makeMask('below'))
    const mask = masked.layers.find((layer) => layer.id === 'below')!.mask!
    expect(studio.mask(mask, masked.scenes ?? []).levels[0].data).toEqual(before)
    const saved = run(
      selected,
      saveSelection('kept', 'Kept'),
      (project) => void (project.selection.steps = []),
      addLayer(exposure(-2), 'below'),
      addStep(SELECTION, parseStep({ kind: 'saved', selection: 'kept' })),
    )
    expect(matte(saved)).toEqual(before)
  })
  it('an adjustment added while something is selected is masked by it at once, as it was without the adjustment', () => {
    const selected = run(start, addStep(SELECTION, pick('all')))
    const masked = run(selected, addLayerWithin(exposure(1), 'below'))
    expect(masked.selection.steps).toEqual([])
    const layer = masked.layers.at(-1)!
    expect(studio.mask(layer.mask!, masked.scenes ?? []).levels[0].data).toEqual(matte(selected))
  })
  it('kept scenes that nothing looks at any more go; what is looked at is always there', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
        let project = start
        const pictures = [BELOW, ABOVE].map((asset) => ({ asset, ...size, name: asset[0] }))
        for (let i = 0; i < 150; i++) {
          const random = randomOf(seed + i)
          project = run(project, anyEdit(random, project, pictures, newId).edit)
          if (random.chance(0.3)) project = run(project, (draft) => void (draft.selection.steps = []))
          else project = run(project, addStep(SELECTION, { ...pick('all'), id: newId() }))
        }
        expect(() => parseProject(JSON.parse(JSON.stringify(project)))).not.toThrow()
        expect(picturesOfProject(project).length).toBeGreaterThan(0)
      }),
      { numRuns: 5 },
    )
  })
})
