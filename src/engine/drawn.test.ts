import { describe, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture } from '@/core/compose/nodes'
import { halvePicture, picturePyramid } from '@/core/raster/levels'
import { type Picture } from '@/core/raster/picture'
import { projectOf, setLinear } from '@/document/edits'
import { addLayer, addPicture, changeLayer, groupLayers, placeLayer } from '@/document/layers'
import { adjustLayer, fillLayer } from '@/document/layerRecords'
import { setWindow } from '@/document/window'
import { nodesOf } from './nodes'
import { drawInParts, partsTask } from './drawInParts'
import { Studio } from './studio'
import {
  WIDTH,
  HEIGHT,
  OTTER,
  QUAY,
  SOFT,
  files,
  studio,
  run,
  start,
  shown,
  canvas,
  red,
  at,
  worst,
} from '../../tests/setups/studio'

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
