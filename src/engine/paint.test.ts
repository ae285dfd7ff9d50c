import { describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import { addLayer, changeLayer, placeLayer } from '@/document/layers'
import { paintLayer } from '@/document/layerRecords'
import { changePaint, paint } from '@/document/painting'
import { sceneOfProject } from '@/document/tree'
import {
  WIDTH,
  OTTER,
  files,
  studio,
  newId,
  run,
  start,
  shown,
  ellipse,
  canvas,
  red,
  at,
} from '../../tests/setups/studio'

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
