/** What was remembered never shows: a studio that has made many mattes gives the same ones as a fresh one, whatever finders made them. */
import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { FINDERS, MODIFIERS } from '@/core/steps/registry'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { addStep, makeMask, projectOf, saveSelection } from '@/document/edits'
import { EMPTY_HISTORY, type Edit, perform } from '@/document/history'
import { addPicture } from '@/document/layers'
import { changeMask } from '@/document/masks'
import { sceneOfProject } from '@/document/tree'
import { type Project, SELECTION } from '@/document/records'
import { randomOf } from '../../tests/madeUp/random'
import { anyStep, FINDING, MODIFYING, type Named } from '../../tests/madeUp/steps'
import { Studio } from './studio'

const size = { width: 96, height: 64 }
const [BELOW, ABOVE] = ['a', 'b'].map((letter) => letter.repeat(64))
/** Two blobs before stripes, so that there is something to find. */
function picture(seed: number): Picture {
  const random = randomOf(seed),
    data = new Uint8ClampedArray(size.width * size.height * 4)
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i += 4) {
      const blob = Math.hypot(x - 30 - seed, y - 34) < 17 || Math.hypot(x - 70, y - 20 - seed) < 9
      const grain = random.between(-6, 6)
      data.set(
        blob
          ? [200 + grain, 90 - seed * 3, 60 + grain]
          : [40 + seed * 9 + grain, 80 + (y >> 3) * 9 + grain, 150 + grain],
        i,
      )
      data[i + 3] = seed === 2 ? Math.min(255, x * 4) : 255
    }
  return { ...size, data }
}
const files = new Map([BELOW, ABOVE].map((asset, i) => [asset, picture(i + 1)]))
const fresh = () =>
  new Studio((asset) => {
    const file = files.get(asset)!
    return { levels: picturePyramid(file, isOpaque(file)), opaque: isOpaque(file) }
  }, 1 << 28)
let ids = 0
const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) =>
      perform(state, EMPTY_HISTORY, 'edit', edit, `edit-${++ids}`, '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )
const project = run(
  projectOf('Made up', { asset: BELOW, ...size, name: 'Below' }, 'below'),
  addStep(SELECTION, anyStep(randomOf(5), size, { layers: [], saved: [], pictures: [] }, ['ellipse'])),
  saveSelection('kept', 'Kept'),
  makeMask('below'),
  changeMask('below', { invert: true, feather: 2 }),
  addPicture({ asset: ABOVE, ...size, name: 'Above' }, 'above', null),
)
const named: Named = { layers: ['below', 'above'], saved: ['kept'], pictures: [ABOVE] }

describe('remembering', () => {
  it('the steps drawn are of every kind there is', () => {
    expect(Object.keys(FINDING).sort()).toEqual(Object.keys(FINDERS).sort())
    expect(Object.keys(MODIFYING).sort()).toEqual(Object.keys(MODIFIERS).sort())
  })
  it('“invert only this step” of another layer’s mask, and back again, gives the mask as it was', () => {
    const remembering = fresh(),
      scene = remembering.scene(sceneOfProject(project))
    const step = (invert: boolean, feather = 0) => ({
      ...anyStep(randomOf(1), size, named, ['layer']),
      layer: 'below',
      use: 'mask',
      op: 'add',
      grow: 0,
      feather,
      invert,
    })
    const matte = (invert: boolean, feather = 0) =>
      remembering.matte([step(invert, feather) as never], scene, () => {}).data.slice()
    const before = matte(false)
    matte(true)
    matte(true, 3)
    expect(matte(false)).toEqual(before)
  })
  it.each([...Object.keys(FINDING), ...Object.keys(MODIFYING)])(
    'the answer does not depend on what was remembered: %s among others, inverted and back, hidden and back',
    (kind) => {
      const remembering = fresh()
      fc.assert(
        fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
          const random = randomOf(seed)
          const others = Array.from({ length: random.whole(0, 3) }, () => anyStep(random, size, named)),
            step = anyStep(random, size, named, [kind])
          const turned = 'invert' in step ? { ...step, invert: !step.invert } : { ...step, hidden: true }
          for (const now of [step, turned, step, { ...step, hidden: true }, step]) {
            const steps = [...others.slice(0, 1), now, ...others.slice(1)],
              studio = fresh()
            const ours = remembering.matte(steps, remembering.scene(sceneOfProject(project)), () => {})
            expect(ours.data).toEqual(studio.matte(steps, studio.scene(sceneOfProject(project)), () => {}).data)
          }
        }),
        { numRuns: kind === 'layer' ? 12 : 1 },
      )
    },
  )
})
