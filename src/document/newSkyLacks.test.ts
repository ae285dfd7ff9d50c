import { describe, expect, it } from 'vitest'
import { parseAdjustment, type AdjustmentOf, type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { parseStep } from '@/core/formats/recipe'
import { type NewSky } from '@/core/match/newSky'
import { changeAdjustment, skyFollowsLand } from './skyLikeLand'
import { addStep } from './edits'
import { edited } from './history'
import { addLayer } from './layers'
import { adjustLayer } from './layerRecords'
import { removeMask, setMask } from './masks'
import { exchangeSky, replaceSky, skySteps, subjectApart } from './newSky'
import { newSkyAt } from './newSkyParts'
import { childrenOf } from './tree'
import { type AdjustLayer, SELECTION } from './records'
import { photo, amber, grey, plan, newId, bare, withSky } from '../../tests/setups/newSky'

describe('what a new sky lacks, and what it takes over', () => {
  it('takes the photo’s blur below its grain, and loses it with a sky that is as soft', () => {
    const blurred = (radius: number): NewSky => ({
        ...plan([0.4, 0.4, 0.4], 0, 0.1),
        blur: parseAdjustment({ kind: 'gaussianBlur', radius }) as AdjustmentOf<'gaussianBlur'>,
      }),
      project = edited(bare(), replaceSky('photo', amber, skySteps(photo, newId), blurred(3), newId)),
      parts = newSkyAt(project.layers, 'photo')!
    expect(childrenOf(project.layers, parts.group!.id).map((layer) => layer.name)).toEqual([
      'Amber',
      'Blur of the photo',
      'Grain of the photo',
      'Land',
      'Light on the land',
      'Haze',
    ])
    const next = edited(
        project,
        exchangeSky({ ...parts, sky: parts.sky!, light: parts.light! }, grey, plan([0.4, 0.4, 0.4]), newId),
      ),
      { blur, grain } = newSkyAt(next.layers, 'photo')!
    expect([blur?.adjustment, grain?.adjustment]).toMatchObject([{ radius: 0 }, { amount: 0 }])
  })
  it('a sky that comes later and lacks both gets the blur below the grain, too; what the editor put there stays his', () => {
    const first = withSky(),
      parts = newSkyAt(first.layers, 'photo')!,
      own = adjustLayer('own', 'My blur', photo, parseAdjustment({ kind: 'gaussianBlur', radius: 9 })),
      mine = edited(first, addLayer({ ...own, clipped: true }, parts.land!.id)),
      both: NewSky = {
        ...plan([0.4, 0.4, 0.4], 0, 0.1),
        blur: parseAdjustment({ kind: 'gaussianBlur', radius: 3 }) as AdjustmentOf<'gaussianBlur'>,
      },
      next = edited(
        mine,
        exchangeSky({ ...newSkyAt(mine.layers, 'photo')!, sky: parts.sky!, light: parts.light! }, grey, both, newId),
      )
    expect(childrenOf(next.layers, parts.group!.id).map((layer) => layer.name)).toEqual([
      'Grey',
      'Blur of the photo',
      'Grain of the photo',
      'Land',
      'My blur',
      'Light on the land',
      'Haze',
    ])
    const kept = next.layers.find((layer) => layer.id === 'own') as AdjustLayer
    expect([kept.adjustment, kept.measured]).toEqual([own.adjustment, undefined])
  })
  it('the land is the layer before the sky, though its light has a mask and it has none', () => {
    const selected = edited(
        withSky(),
        addStep(SELECTION, parseStep({ kind: 'ellipse', id: 'e', x: 9, y: 9, width: 90, height: 90 })),
      ),
      apart = edited(selected, subjectApart(newSkyAt(selected.layers, 'photo')!.light!, newId)),
      bareLand = edited(apart, removeMask(newSkyAt(apart.layers, 'photo')!.land!.id))
    expect(newSkyAt(bareLand.layers, 'photo')!.land).toBeUndefined()
  })
  it('of a photo that is masked already, the mask stays and the land is masked around it', () => {
    const recipe = {
        version: 1,
        steps: [parseStep({ kind: 'ellipse', x: 0, y: 0, width: 900, height: 600 })],
      } as const,
      masked = withSky(edited(bare(), setMask('photo', recipe))),
      parts = newSkyAt(masked.layers, 'photo')!
    expect(parts.land?.kind).toBe('group')
    expect(parts.land?.mask?.recipe.steps.map((step) => step.kind)).toEqual(['sky', 'edge', 'invert'])
    const [land] = childrenOf(masked.layers, parts.land!.id)
    expect(land.mask?.recipe.steps.map((step) => step.kind)).toEqual(['ellipse'])
    expect(parts.photo.mask).toEqual(masked.layers[0].mask)
  })

  it('the sky takes over what the land does not follow, until the editor says otherwise', () => {
    const started = withSky(),
      parts = () => newSkyAt(project.layers, 'photo')!
    let project = edited(started, skyFollowsLand(newSkyAt(started.layers, 'photo')!, newId))
    // Clipped to the sky, in the order in which they work.
    const inside = childrenOf(project.layers, parts().group!.id),
      sky = inside.findIndex((each) => each.id === parts().sky!.id)
    expect(inside.slice(sky + 1, sky + 3).map(({ name, clipped }) => [name, clipped])).toEqual([
      ['Exposure of the sky', true],
      ['White balance of the sky', true],
    ])
    expect(project.activeLayer).toBe(started.activeLayer)
    const stops = () => (parts().exposure!.adjustment as AdjustmentOf<'exposure'>).stops,
      marked = () => (parts().exposure!.measured as AdjustmentOf<'exposure'>).stops,
      follow = (tone: number) => {
        const { id, adjustment } = parts().light!
        project = edited(project, changeAdjustment(id, { ...adjustment, tone } as AdjustmentRecord))
      }
    expect(stops()).toBe(0)
    follow(0)
    // The new light is darker than the old one: the sky is made lighter.
    expect(stops()).toBeGreaterThan(0.5)
    follow(1)
    expect(stops()).toBe(0)
    const { id } = parts().exposure!
    project = edited(project, changeAdjustment(id, { kind: 'exposure', stops: -0.4 }))
    follow(0.5)
    expect(stops()).toBe(-0.4)
    expect(marked()).toBeGreaterThan(0.2)
    // Another sky: measured anew, what was set stays; a blur it lacks lies over both.
    const there = parts()
    project = edited(
      project,
      exchangeSky(
        { ...there, sky: there.sky!, light: there.light! },
        grey,
        {
          ...plan([1.6, 1.6, 1.6]),
          blur: parseAdjustment({ kind: 'gaussianBlur', radius: 2 }) as AdjustmentOf<'gaussianBlur'>,
        },
        newId,
      ),
    )
    expect(stops()).toBe(-0.4)
    expect(marked()).toBeCloseTo(-0.5, 6)
    const names = childrenOf(project.layers, parts().group!.id).map(({ name }) => name)
    expect(names.indexOf('Blur of the photo')).toBe(names.indexOf('White balance of the sky') + 1)
  })
})
