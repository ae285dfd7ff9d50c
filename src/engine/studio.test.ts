import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture } from '@/core/compose/nodes'
import { byteOfLinear, LINEAR_OF_BYTE } from '@/core/colour/srgb'
import { parseStep } from '@/core/formats/recipe'
import { halvePicture, picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { type StepOfKind } from '@/core/steps/registry'
import { addStep, makeMask, projectOf, setLinear } from '@/document/edits'
import { EMPTY_HISTORY, perform, type Edit } from '@/document/history'
import { addLayer, addPicture, changeLayer, groupLayers, placeLayer } from '@/document/layers'
import { adjustLayer, fillLayer, paintLayer } from '@/document/layerRecords'
import { changePaint, paint } from '@/document/painting'
import { cutOut, eraseSelected, liftCopy } from '@/document/pieces'
import { changeMask, copyMask, moveMask, setMask } from '@/document/masks'
import { sceneOfProject } from '@/document/tree'
import { type Project, SELECTION } from '@/document/records'
import { setWindow } from '@/document/window'
import { nodesOf } from './nodes'
import { drawInParts, partsTask } from './drawInParts'
import { Studio } from './studio'

const WIDTH = 320,
  HEIGHT = 200
const OTTER = 'a'.repeat(64),
  QUAY = 'b'.repeat(64),
  SOFT = 'c'.repeat(64)
const drawn = (seed: number, alpha: (x: number, y: number) => number = () => 255): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i += 4)
      data.set([(x * 3 + seed * 50) % 256, (y * 5 + seed * 90) % 256, ((x ^ y) * 2 + seed * 30) % 256, alpha(x, y)], i)
  return { width: WIDTH, height: HEIGHT, data }
}
const files: Record<string, Picture> = {
  [OTTER]: drawn(1),
  [QUAY]: drawn(2),
  [SOFT]: drawn(3, (x) => Math.min(255, x)),
}
const decoded = new Map<string, DecodedPicture>(
  Object.entries(files).map(([name, picture]) => [
    name,
    { levels: picturePyramid(picture, isOpaque(picture)), opaque: isOpaque(picture) },
  ]),
)
const studio = new Studio((asset) => {
  const found = decoded.get(asset)
  if (!found) throw new Error('not here')
  return found
}, 1 << 28)

let n = 0
const newId = () => `id-${++n}`
const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) => perform(state, EMPTY_HISTORY, 'edit', edit, newId(), '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )
const start = projectOf('Page', { asset: OTTER, width: WIDTH, height: HEIGHT, name: 'Otter' }, 'otter')
const shown = (project: Project) => studio.deliver(project).data
const ellipse = (values: object = {}) =>
  parseStep({ kind: 'ellipse', id: newId(), x: 60, y: 30, width: 160, height: 120, ...values })
const canvas = { width: WIDTH, height: HEIGHT }
const red = { kind: 'colour', colour: '#cc2211' } as const
const at = (data: Uint8ClampedArray, x: number, y: number) => [
  ...data.subarray((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 4),
]
const worst = (a: Uint8ClampedArray, b: Uint8ClampedArray) =>
  a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0)

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

describe('layers as they are drawn', () => {
  const three = () =>
    run(
      start,
      addPicture({ asset: SOFT, width: WIDTH, height: HEIGHT, name: 'Soft' }, 'soft', null),
      addLayer(fillLayer('fill', 'Fill', canvas, red), 'soft'),
    )
  it('a clipped layer shows only where the one below it does, and goes with it', () => {
    const clipped = run(
      three(),
      changeLayer('fill', { clipped: true, blend: 'multiply' }),
      changeLayer('otter', { visible: false }),
    )
    const data = shown(clipped)
    expect(data.filter((_, i) => i % 4 === 3)).toEqual(files[SOFT].data.filter((_, i) => i % 4 === 3))
    expect(Math.abs(at(data, 300, 20)[0] - (at(files[SOFT].data, 300, 20)[0] * 0xcc) / 255)).toBeLessThanOrEqual(1)
    expect(shown(run(clipped, changeLayer('soft', { visible: false }))).every((v, i) => i % 4 !== 3 || v === 0)).toBe(
      true,
    )
  })
  it('an adjustment clipped to a layer leaves the others; in an isolated group it leaves what is below; passed through it does not', () => {
    const toned = run(
      start,
      addPicture({ asset: SOFT, width: WIDTH, height: HEIGHT, name: 'Soft' }, 'soft', null),
      addLayer(adjustLayer('tone', 'Tone', canvas, parseAdjustment({ kind: 'invert' })), 'soft'),
    )
    const plain = shown(run(toned, changeLayer('tone', { visible: false })))
    expect(at(shown(toned), 0, 10)).toEqual(at(plain, 0, 10).map((v, c) => (c < 3 ? 255 - v : v)))
    expect(at(shown(run(toned, changeLayer('tone', { clipped: true }))), 0, 10)).toEqual(at(plain, 0, 10))
    expect(at(shown(run(toned, groupLayers(['soft', 'tone'], 'group', 'Group', false))), 0, 10)).toEqual(
      at(plain, 0, 10),
    )
    expect(worst(shown(run(toned, groupLayers(['soft', 'tone'], 'group', 'Group', true))), shown(toned))).toBe(0)
  })
  it('groups twenty deep, passed through or isolated, show what lies in them; a layer of no opacity or no area shows nothing', () => {
    for (const through of [true, false]) {
      let deep = three()
      for (let i = 0; i < 20; i++) deep = run(deep, groupLayers([i ? `g${i - 1}` : 'soft'], `g${i}`, 'Group', through))
      expect(worst(shown(deep), shown(three()))).toBeLessThanOrEqual(1)
      const keys = nodesOf(deep.layers, {
        mask: () => null,
        paint: () => null,
        fringed: () => null,
        picture: (asset) => asset,
      }).map((node) => node.key!.length)
      expect(Math.max(...keys)).toBeLessThan(3000) // what stands for a node grows by what a group adds, not by doubling
    }
    const below = shown(run(three(), changeLayer('fill', { visible: false })))
    expect(worst(shown(run(three(), changeLayer('fill', { opacity: 0 }))), below)).toBe(0)
    for (const placement of [
      [0, 0, 0, 0, 0, 0],
      [0, 0, 0, 1, 0, 0],
    ] as const)
      expect(
        worst(
          shown(
            run(
              start,
              addPicture({ asset: QUAY, width: WIDTH, height: HEIGHT, name: 'Quay' }, 'quay', null),
              placeLayer('quay', placement),
            ),
          ),
          files[OTTER].data,
        ),
      ).toBe(0)
    const huge = shown(run(start, placeLayer('otter', [1000, 0, 0, 1000, -100_000, -50_000])))
    expect(at(huge, 10, 10)[3]).toBe(255)
  })
  it('opacity of a pass-through group mixes what is below with what it becomes', () => {
    const group = run(
      start,
      addLayer(adjustLayer('tone', 'Tone', canvas, parseAdjustment({ kind: 'invert' })), 'otter'),
      groupLayers(['tone'], 'group', 'Group', true),
      changeLayer('group', { opacity: 0.5 }),
    )
    expect(shown(group).every((v, i) => Math.abs(v - (i % 4 === 3 ? 255 : 127.5)) <= 1)).toBe(true)
  })
  it('linear light is a setting of the project', () => {
    const half = run(
      start,
      addLayer(fillLayer('fill', 'White', canvas, { kind: 'colour', colour: '#ffffff' }), 'otter'),
      changeLayer('fill', { opacity: 0.5 }),
      addLayer(fillLayer('black', 'Black', canvas, { kind: 'colour', colour: '#000000' }), null),
      (project) => {
        project.layers = [project.layers[2], project.layers[1]]
      },
    )
    expect(at(shown(half), 5, 5)[0]).toBe(128)
    expect(at(shown(run(half, setLinear(true))), 5, 5)[0]).toBe(188) // half of the light: IEC 61966-2-1 encodes 0.5 as 188
  })
  it('the window shows a part, turned about its middle; all of the canvas can be had back', () => {
    const cropped = studio.deliver(run(start, setWindow({ cx: 100, cy: 80, width: 60, height: 40, turn: 0 })))
    expect([cropped.width, cropped.height]).toEqual([60, 40])
    expect([...cropped.data.subarray(0, 4)]).toEqual(at(files[OTTER].data, 70, 60))
    const turned = studio.deliver(run(start, setWindow({ cx: 100, cy: 80, width: 60, height: 40, turn: 180 })))
    expect([...turned.data.subarray(0, 3)].every((v, c) => Math.abs(v - at(files[OTTER].data, 129, 99)[c]) <= 1)).toBe(
      true,
    )
    expect(
      worst(
        shown(run(run(start, setWindow({ cx: 100, cy: 80, width: 60, height: 40, turn: 9 })), setWindow(null))),
        files[OTTER].data,
      ),
    ).toBe(0)
  })
})

describe('paint', () => {
  const stroke = (points: number[][], more: object = {}) =>
    parseStep({ kind: 'paint', id: newId(), strokes: [{ points, size: 30, ...more }] }) as StepOfKind<'paint'>
  const layered = run(start, addLayer(paintLayer('paint', 'Paint', canvas), 'otter'))
  it('lands nowhere outside the selection, and keeps its soft edge', () => {
    const within = { version: 1 as const, steps: [ellipse({ feather: 12 })] }
    const painted = run(
      layered,
      paint(
        'paint',
        'p1',
        { fill: red, erase: false, within },
        stroke(
          [
            [0, 90],
            [319, 90],
          ],
          { size: 60 },
        ),
      ),
      changeLayer('otter', { visible: false }),
    )
    const matte = studio.matte(within.steps, studio.scene(sceneOfProject(start)), () => {})
    const data = shown(painted)
    expect(matte.data.every((v, i) => data[i * 4 + 3] <= v)).toBe(true)
    for (let x = 0; x < WIDTH; x++)
      expect(Math.abs(at(data, x, 90)[3] - matte.data[90 * WIDTH + x])).toBeLessThanOrEqual(1)
    expect(at(data, 140, 90)).toEqual([0xcc, 0x22, 0x11, 255])
  })
  it('fills what is similar or all, rubs out, and can be changed afterwards', () => {
    const filled = run(
      layered,
      paint('paint', 'p1', { fill: red, erase: false, within: { version: 1, steps: [] } }, null),
      paint(
        'paint',
        'p2',
        { fill: red, erase: true, within: { version: 1, steps: [] } },
        stroke([
          [50, 50],
          [60, 50],
        ]),
      ),
    )
    expect(at(shown(filled), 200, 150)).toEqual([0xcc, 0x22, 0x11, 255])
    expect(at(shown(filled), 55, 50)).toEqual(at(files[OTTER].data, 55, 50))
    const blue = run(filled, changePaint('paint', 'p1', { fill: { kind: 'colour', colour: '#1122cc' }, strength: 0.5 }))
    expect(at(shown(blue), 200, 150)[2]).toBeGreaterThan(100)
    const similar = run(
      layered,
      paint(
        'paint',
        'p1',
        { fill: red, erase: false, within: { version: 1, steps: [] } },
        parseStep({ kind: 'similarColour', id: 's', at: [40, 40], tolerance: 6 }) as StepOfKind<'similarColour'>,
      ),
    )
    expect(at(shown(similar), 40, 40)).toEqual([0xcc, 0x22, 0x11, 255])
    expect(at(shown(similar), 300, 190)).toEqual(at(files[OTTER].data, 300, 190))
  })
  it('a gradient runs from end to end and lends its clear end no colour', () => {
    const ramp = run(
      layered,
      paint(
        'paint',
        'p1',
        {
          fill: {
            kind: 'gradient',
            shape: 'linear',
            from: [0, 0],
            to: [WIDTH, 0],
            stops: [
              { at: 0, colour: '#ffffff', alpha: 1 },
              { at: 1, colour: '#000000', alpha: 0 },
            ],
          },
          erase: false,
          within: { version: 1, steps: [] },
        },
        null,
      ),
      changeLayer('otter', { visible: false }),
    )
    const data = shown(ramp)
    expect(at(data, 160, 5)[3]).toBeCloseTo(128, -1)
    expect(at(data, 240, 5)[0]).toBeGreaterThan(245)
  })
  it('follows its layer when that is moved, and paints on where the pointer is', () => {
    const moved = run(
      layered,
      paint(
        'paint',
        'p1',
        { fill: red, erase: false, within: { version: 1, steps: [] } },
        stroke([
          [40, 40],
          [50, 40],
        ]),
      ),
      placeLayer('paint', [1, 0, 0, 1, 100, 20]),
      paint(
        'paint',
        'p2',
        { fill: red, erase: false, within: { version: 1, steps: [] } },
        stroke([
          [40, 160],
          [50, 160],
        ]),
      ),
    )
    const data = shown(moved)
    expect([at(data, 145, 60)[0], at(data, 45, 160)[0]]).toEqual([0xcc, 0xcc])
  })
})

describe('pictures in parts', () => {
  it('drawn from parts of the pictures it is the same as from all of them, with effects, turned and scaled', () => {
    const SIDE = 1500,
      big = (seed: number): Picture => {
        const data = new Uint8ClampedArray(SIDE * SIDE * 4)
        for (let i = 0; i < data.length; i += 4) {
          const x = (i / 4) % SIDE,
            y = Math.floor(i / 4 / SIDE)
          data.set([128 + 100 * Math.sin(x / 17 + seed), 128 + 100 * Math.cos(y / 23), (x * seed) % 256, 255], i)
        }
        return { width: SIDE, height: SIDE, data }
      }
    const whole = new Map<string, DecodedPicture>(
      [OTTER, QUAY].map((name, i) => [name, { levels: picturePyramid(big(i + 1), true), opaque: true }]),
    )
    const source = (asset: string) => whole.get(asset)!
    const part = (asset: string, box: { x: number; y: number; width: number; height: number }): DecodedPicture => {
      const [full, , ...coarse] = source(asset).levels,
        even = (v: number) => Math.floor(Math.min(SIDE - 1, Math.max(0, v)) / 2) * 2
      const left = even(box.x),
        top = even(box.y),
        width = Math.max(1, Math.min(SIDE, box.x + box.width) - left),
        height = Math.max(1, Math.min(SIDE, box.y + box.height) - top)
      const data = new Uint8ClampedArray(width * height * 4)
      for (let y = 0; y < height; y++)
        data.set(
          full.data.subarray(((top + y) * SIDE + left) * 4, ((top + y) * SIDE + left + width) * 4),
          y * width * 4,
        )
      const fine = { width, height, data }
      return {
        levels: [
          { ...fine, left, top },
          { ...halvePicture(fine, undefined, true), left: left / 2, top: top / 2 },
          ...coarse,
        ],
        opaque: true,
        size: { width: SIDE, height: SIDE },
      }
    }
    const project = run(
      projectOf('Large', { asset: OTTER, width: SIDE, height: SIDE, name: 'Otter' }, 'otter'),
      addPicture({ asset: QUAY, width: SIDE, height: SIDE, name: 'Quay' }, 'quay', null),
      placeLayer('quay', [0.5, 0.3, -0.3, 0.5, 500, 300]),
      addLayer(
        adjustLayer(
          'sharp',
          'Sharpen',
          { width: SIDE, height: SIDE },
          parseAdjustment({ kind: 'sharpen', amount: 1, radius: 4 }),
        ),
        'quay',
      ),
      addLayer(
        adjustLayer(
          'blur',
          'Blur',
          { width: SIDE, height: SIDE },
          parseAdjustment({ kind: 'gaussianBlur', radius: 90 }),
        ),
        'sharp',
      ),
      changeLayer('blur', { opacity: 0.5 }),
    )
    const one = new Studio(source, 1 << 28).deliver(project),
      other = new Studio(source, 1 << 28, {
        draw: (drawing, crew, check) =>
          drawInParts(
            partsTask('from parts', () => ({ begin: () => {}, part })),
            { ...drawing, stored: null },
            crew,
            check,
          ),
      }).deliver(project)
    expect(worst(one.data, other.data)).toBeLessThanOrEqual(1)
  })
})
