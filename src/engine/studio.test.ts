import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { byteOfLinear, LINEAR_OF_BYTE } from '@/core/colour/srgb'
import { parseStep } from '@/core/formats/recipe'
import { picturePyramid } from '@/core/raster/levels'
import { type Picture } from '@/core/raster/picture'
import { addStep, makeMask, projectOf } from '@/document/edits'
import { addLayer, addPicture, changeLayer, placeLayer } from '@/document/layers'
import { adjustLayer } from '@/document/layerRecords'
import { cutOut, eraseSelected, liftCopy } from '@/document/pieces'
import { changeMask, copyMask, moveMask, setMask } from '@/document/masks'
import { type Project, SELECTION } from '@/document/records'
import {
  WIDTH,
  HEIGHT,
  OTTER,
  QUAY,
  SOFT,
  files,
  decoded,
  newId,
  run,
  start,
  shown,
  ellipse,
  canvas,
  at,
  worst,
} from '../../tests/setups/studio'

describe('fringe colours', () => {
  // A red thing before a blue wall, its edge mixed over 12 px; laid over green.
  const soft = (x: number) => Math.max(0, Math.min(1, (x - 150) / 12)),
    mixture: Picture = { width: WIDTH, height: HEIGHT, data: new Uint8ClampedArray(WIDTH * HEIGHT * 4) },
    green: Picture = { ...mixture, data: new Uint8ClampedArray(mixture.data.length) }
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const t = soft(i % WIDTH)
    mixture.data.set(
      [0, 1, 2].map((c) =>
        byteOfLinear(t * LINEAR_OF_BYTE[[200, 40, 40][c]] + (1 - t) * LINEAR_OF_BYTE[[40, 60, 200][c]]),
      ),
      4 * i,
    )
    mixture.data[4 * i + 3] = 255
    green.data.set([30, 160, 60, 255], 4 * i)
  }
  decoded.set('8'.repeat(64), { levels: picturePyramid(mixture, true), opaque: true })
  decoded.set('9'.repeat(64), { levels: picturePyramid(green, true), opaque: true })
  const gradient = parseStep({ kind: 'gradient', id: 'g', shape: 'linear', from: [150, 0], to: [162, 0] })
  const masked = run(
    projectOf('Fringe', { asset: '8'.repeat(64), width: WIDTH, height: HEIGHT, name: 'Thing' }, 'thing'),
    addStep(SELECTION, gradient),
    makeMask('thing'),
    addPicture({ asset: '9'.repeat(64), width: WIDTH, height: HEIGHT, name: 'Green' }, 'green', 'thing'),
  )
  /** How much blue there is along the edge, where neither the thing nor the green has more than 60. */
  const blueness = (project: Project) => {
    const data = shown(project)
    let sum = 0
    for (let x = 150; x < 162; x++) sum += at(data, x, 100)[2] / 12
    return sum
  }
  it('a mask made of a selection takes the old backdrop out of soft pixels; at none it shows, at half in between', () => {
    expect(masked.layers.find((layer) => layer.id === 'thing')!.mask!.fringe).toBe(1)
    const [all, half, none] = [1, 0.5, 0].map((fringe) => blueness(run(masked, changeMask('thing', { fringe }))))
    expect(all).toBeLessThan(66)
    expect(none).toBeGreaterThan(all + 15)
    expect(half).toBeGreaterThan(all)
    expect(half).toBeLessThan(none)
  })
  it('the picture itself stays as it is: full pixels do not change', () => {
    expect(at(shown(masked), 250, 100)).toEqual(at(mixture.data, 250, 100))
  })
  it('a rim takes colours from deeper inside', () => {
    // Full from 156 on: six px of the mixture lie within.
    const hard = run(masked, (project) => {
      const mask = project.layers.find((layer) => layer.id === 'thing')!.mask!
      mask.recipe.steps = [
        parseStep({ kind: 'rectangle', id: 'r', x: 156, y: 0, width: 164, height: 200, antialias: false }) as never,
      ]
    })
    const [r, , b] = at(shown(hard), 157, 100),
      [cleanR, , cleanB] = at(shown(run(hard, changeMask('thing', { rim: 8 }))), 157, 100)
    expect(b).toBeGreaterThan(100)
    expect(cleanR).toBeGreaterThan(r + 20)
    expect(cleanB).toBeLessThan(60)
  })
})

describe('pieces', () => {
  it.each([0, 8])('lifted pieces put back over their holes give the original within 1/255 (feather %d)', (feather) => {
    const cut = run(start, addStep(SELECTION, ellipse({ feather })), cutOut('otter', newId))
    expect(worst(shown(cut), files[OTTER].data)).toBeLessThanOrEqual(1)
    // over another picture, too: the pieces lie in a group by themselves
    const over = run(
      cut,
      addPicture({ asset: QUAY, width: WIDTH, height: HEIGHT, name: 'Quay' }, 'quay', cut.layers[0].id),
    )
    const low = run(over, (project) => {
      const quay = project.layers.find((l) => l.id === 'quay')!
      delete quay.parent
      project.layers = [quay, ...project.layers.filter((l) => l.id !== 'quay')]
    })
    expect(worst(shown(low), files[OTTER].data)).toBeLessThanOrEqual(1)
  })
  it('with something clipped to the piece they still make the whole', () => {
    const cut = run(start, addStep(SELECTION, ellipse({ feather: 8 })), cutOut('otter', newId))
    const clipped = run(
      cut,
      addLayer(adjustLayer('tone', 'Tone', canvas, parseAdjustment({ kind: 'exposure', stops: 0 })), cut.activeLayer),
      changeLayer('tone', { clipped: true }),
    )
    expect(worst(shown(clipped), files[OTTER].data)).toBeLessThanOrEqual(1)
  })
  it('a lifted copy shows the selected part where the layer itself is hidden; deleting hides just that', () => {
    const hole = shown(run(start, addStep(SELECTION, ellipse()), eraseSelected('otter', newId)))
    expect([at(hole, 140, 90)[3], at(hole, 5, 5)[3]]).toEqual([0, 255])
    const piece = shown(
      run(start, addStep(SELECTION, ellipse()), liftCopy('otter', newId), changeLayer('otter', { visible: false })),
    )
    expect(at(piece, 140, 90)).toEqual(at(files[OTTER].data, 140, 90))
    expect(at(piece, 5, 5)[3]).toBe(0)
  })
})

describe('masks', () => {
  it('white shows all and black hides all (common practice); inverted they change places; strength thins, feather softens', () => {
    const white = run(start, setMask('otter', { version: 1, steps: [parseStep({ kind: 'all', id: 'w' })] })),
      black = run(start, setMask('otter', { version: 1, steps: [] }))
    expect(worst(shown(white), files[OTTER].data)).toBe(0)
    expect(shown(black).every((v, i) => i % 4 !== 3 || v === 0)).toBe(true)
    expect(worst(shown(run(black, changeMask('otter', { invert: true }))), files[OTTER].data)).toBe(0)
    expect(at(shown(run(black, changeMask('otter', { strength: 0.25 }))), 9, 9)[3]).toBe(191)
    const hard = shown(run(start, setMask('otter', { version: 1, steps: [ellipse()] }))),
      soft = shown(run(start, setMask('otter', { version: 1, steps: [ellipse()] }, { feather: 20 })))
    expect(at(hard, 52, 90)[3]).toBe(0)
    expect(at(soft, 52, 90)[3]).toBeGreaterThan(20)
  })
  it('a mask moved apart from its picture moves on the canvas only; one copied lies in the same place', () => {
    const masked = run(
      start,
      setMask('otter', { version: 1, steps: [ellipse()] }),
      changeMask('otter', { unlinked: true }),
      moveMask('otter', [1, 0, 0, 1, 40, 0]),
    )
    expect([at(shown(masked), 75, 90)[3], at(shown(masked), 245, 90)]).toEqual([0, at(files[OTTER].data, 245, 90)])
    const moved = shown(run(masked, placeLayer('otter', [1, 0, 0, 1, 10, 0])))
    expect([at(moved, 105, 90), at(moved, 75, 90)[3]]).toEqual([at(files[OTTER].data, 95, 90), 0])
    const copied = run(
      masked,
      addPicture({ asset: QUAY, width: WIDTH, height: HEIGHT, name: 'Quay' }, 'quay', null),
      placeLayer('quay', [2, 0, 0, 2, -50, -20]),
      copyMask('otter', 'quay'),
      changeLayer('otter', { visible: false }),
    )
    const alphas = (data: Uint8ClampedArray) => data.filter((_, i) => i % 4 === 3)
    expect(worst(alphas(shown(copied)), alphas(shown(masked)))).toBeLessThanOrEqual(1)
  })
  it('made of another layer’s alpha or brightness, of a mask, of a picture of another size, with what lies outside shown or not', () => {
    const two = run(start, addPicture({ asset: SOFT, width: WIDTH, height: HEIGHT, name: 'Soft' }, 'soft', 'otter'))
    const of = (use: string) =>
      shown(
        run(
          two,
          setMask('otter', { version: 1, steps: [parseStep({ kind: 'layer', id: 'l', layer: 'soft', use })] }),
          changeLayer('soft', { visible: false }),
        ),
      )
    expect(at(of('alpha'), 128, 20)[3]).toBe(128)
    const [r, g, b, a] = at(files[SOFT].data, 200, 20)
    expect(at(of('luminance'), 200, 20)[3]).toBeCloseTo(((0.2126 * r + 0.7152 * g + 0.0722 * b) * a) / 255, -0.5)
    const image = (values: object) =>
      shown(
        run(
          start,
          setMask('otter', {
            version: 1,
            steps: [parseStep({ kind: 'image', id: 'i', asset: SOFT, use: 'alpha', ...values })],
          }),
        ),
      )
    expect(at(image({ scale: 0.5 }), 10, 10)[3]).toBe(0)
    expect(at(image({ scale: 0.5, outside: 'shown' }), 10, 10)[3]).toBe(255)
    expect(at(image({ fit: 'none', x: 100 }), 50, 50)[3]).toBe(0)
    expect(() =>
      shown(
        run(
          start,
          setMask('otter', { version: 1, steps: [parseStep({ kind: 'image', id: 'i', asset: 'd'.repeat(64) })] }),
        ),
      ),
    ).toThrow('The mask picture dddddddd… is not here.')
    expect(() =>
      shown(
        run(start, setMask('otter', { version: 1, steps: [parseStep({ kind: 'layer', id: 'i', layer: 'gone' })] })),
      ),
    ).toThrow(/not there any more/)
  })
  it('keeps what its steps look at, whatever becomes of the layers', () => {
    const masked = run(
      start,
      addStep(SELECTION, parseStep({ kind: 'similarColour', id: 's', at: [40, 40], tolerance: 40 })),
      makeMask('otter'),
    )
    const before = shown(masked)
    const later = run(
      masked,
      addPicture({ asset: QUAY, width: WIDTH, height: HEIGHT, name: 'Quay' }, 'quay', null),
      changeLayer('quay', { visible: false }),
    )
    expect(worst(shown(later), before)).toBe(0)
  })
})
