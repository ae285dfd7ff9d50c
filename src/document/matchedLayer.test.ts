import { describe, expect, it } from 'vitest'
import { type MatchedLayer } from '@/core/match/surroundings'
import { type AdjustmentOf, parseAdjustment } from '@/core/compose/adjustments/registry'
import { edited } from './history'
import { addPicture, changeLayer } from './layers'
import { projectOf } from './edits'
import { matchedAt, matchToSurroundings, turnedRound } from './matchedLayer'
import { replaceSky, skySteps } from './newSky'
import { newSkyAt } from './newSkyParts'
import { type AdjustLayer, type PictureLayer, type Project } from './records'
import { parseProject } from './validate'

const asset = (letter: string) => letter.repeat(64)
const start = edited(
  projectOf('Tour', { asset: asset('a'), width: 900, height: 600, name: 'Quay' }, 'quay'),
  addPicture({ asset: asset('b'), width: 300, height: 400, name: 'Otter' }, 'otter', null),
)
const measured = (tone: number, contrast: number, radius: number, amount: number): MatchedLayer =>
  ({
    relight: parseAdjustment({ kind: 'relight', light: [0.5, 0.5, 0.5], ambient: [tone, tone, tone] }),
    sideLight: parseAdjustment({ kind: 'sideLight', stops: 0, angle: 90 }),
    contrast: parseAdjustment({ kind: 'brightnessContrast', contrast }),
    blur: parseAdjustment({ kind: 'gaussianBlur', radius }),
    grain: parseAdjustment({ kind: 'grain', amount }),
    side: { own: null, around: null },
  }) as MatchedLayer
let count = 0
const newId = () => `id${++count}`
const match = (project: Project, found: MatchedLayer) =>
  edited(project, matchToSurroundings(matchedAt(project.layers, 'otter')!, found, newId))
const listed = (project: Project) =>
  project.layers.map((layer) => (layer.kind === 'adjust' ? layer.adjustment.kind : layer.name))

describe('a layer matched to its surroundings, as records', () => {
  it('has ordinary adjustments clipped to it, in their order, only those that do something', () => {
    const all = match(start, measured(0.2, 0.1, 3, 0.1))
    expect(listed(all)).toEqual(['Quay', 'Otter', 'relight', 'brightnessContrast', 'gaussianBlur', 'grain'])
    expect(all.layers.slice(2).every((layer) => layer.clipped)).toBe(true)
    expect(all.activeLayer).toBe('otter')
    expect(listed(match(start, measured(0.2, 0, 0, 0)))).toEqual(['Quay', 'Otter', 'relight'])
    expect(() => parseProject(JSON.parse(JSON.stringify(all)))).not.toThrow()
  })
  it('light from the other side goes right above the light; turned round, the layer needs none, unless the editor set it', () => {
    const side = { ...measured(0.2, 0.1, 0, 0), sideLight: parseAdjustment({ kind: 'sideLight', stops: 0.6 }) },
      project = match(start, side as MatchedLayer)
    expect(listed(project)).toEqual(['Quay', 'Otter', 'relight', 'sideLight', 'brightnessContrast'])
    const stopsOf = (edits: (project: Project) => Project) => {
      const before = edits(project),
        after = edited(before, turnedRound(matchedAt(before.layers, 'otter')!, [-1, 0, 0, 1, 300, 0]))
      expect((after.layers[1] as PictureLayer).placement[0]).toBe(-1)
      return ((after.layers[3] as AdjustLayer).adjustment as AdjustmentOf<'sideLight'>).stops
    }
    expect(stopsOf((as) => as)).toBe(0)
    expect(
      stopsOf((as) =>
        edited(as, changeLayer(as.layers[3].id, { adjustment: parseAdjustment({ kind: 'sideLight', stops: 1 }) })),
      ),
    ).toBe(1)
  })
  it('is found from the layer and from each of its adjustments, and not from what lies below or beside', () => {
    const { layers } = match(start, measured(0.2, 0.1, 3, 0.1))
    for (const { id, name } of layers.slice(1)) {
      const found = matchedAt(layers, id)
      expect(found?.layer.id, name).toBe('otter')
      expect(Object.keys(found!.parts), name).toEqual(['relight', 'contrast', 'blur', 'grain'])
    }
    expect(matchedAt(layers, 'quay')?.parts).toEqual({})
    expect(matchedAt(layers, 'nobody')).toBeUndefined()
  })
  it('measured again keeps what was set, and adds what was lacking where it belongs', () => {
    const first = match(start, measured(0.2, 0, 3, 0)),
      light = first.layers[2] as AdjustLayer,
      set = edited(first, changeLayer(light.id, { adjustment: { ...light.adjustment, tone: 0.4 } as never })),
      again = match(set, measured(0.8, 0.2, 5, 0)),
      [, , relight, contrast, blur] = again.layers as AdjustLayer[]
    expect(listed(again)).toEqual(['Quay', 'Otter', 'relight', 'brightnessContrast', 'gaussianBlur'])
    expect(relight.adjustment).toMatchObject({ tone: 0.4, ambient: [0.8, 0.8, 0.8] })
    expect(contrast.adjustment).toMatchObject({ contrast: 0.2 })
    expect(blur.adjustment).toMatchObject({ radius: 5 })
    expect(relight.measured).toMatchObject({ tone: 1 })
  })
  it('leaves a new sky and its land alone: what was measured for them stays theirs', () => {
    const sky = edited(
        start,
        replaceSky(
          'quay',
          { asset: asset('c'), width: 1500, height: 1000, name: 'Amber' },
          skySteps({ width: 900, height: 600 }, newId),
          {
            placement: [1, 0, 0, 1, 0, 0],
            mirrored: false,
            relight: measured(0.3, 0, 0, 0).relight,
            grain: null,
            blur: null,
            haze: parseAdjustment({ kind: 'haze', amount: 0.1, had: 0.1 }) as AdjustmentOf<'haze'>,
            reflection: parseAdjustment({ kind: 'reflection', horizon: 300 }) as AdjustmentOf<'reflection'>,
          },
          newId,
        ),
      ),
      parts = newSkyAt(sky.layers, 'quay')!
    expect(matchedAt(sky.layers, parts.land!.id)).toBeUndefined()
    expect(matchedAt(sky.layers, parts.light!.id)).toBeUndefined()
    expect(matchedAt(sky.layers, parts.sky!.id)).toBeUndefined()
    expect(matchedAt(sky.layers, 'otter')?.layer.id).toBe('otter')
  })
})
