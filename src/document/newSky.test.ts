import { describe, expect, it } from 'vitest'
import { type AdjustmentOf } from '@/core/compose/adjustments/registry'
import { parseStep } from '@/core/formats/recipe'
import { addStep, switchBackground } from './edits'
import { edited } from './history'
import { changeMask } from './masks'
import { addLayer, changeLayer, groupLayers, placeLayer } from './layers'
import { fillLayer } from './layerRecords'
import {
  exchangeSky,
  moveHorizon,
  oldSky,
  photoAlone,
  replaceSky,
  skyInWater,
  skySteps,
  subjectApart,
  waterSteps,
} from './newSky'
import { hazeOverWater } from './hazeOverWater'
import { newSkyAt } from './newSkyParts'
import { childrenOf, looksOf } from './tree'
import { type Project, SELECTION } from './records'
import { photo, amber, grey, plan, newId, bare, withSky } from '../../tests/setups/newSky'

describe('a new sky as records', () => {
  it('is a group over the untouched photo: the sky, the land before it, the light on the land', () => {
    const project = withSky(),
      [first, ...rest] = childrenOf(project.layers, undefined)
    expect(first).toEqual(bare().layers[0])
    expect(rest.map((layer) => [layer.kind, layer.name])).toEqual([['group', 'New sky']])
    const [sky, land, light] = childrenOf(project.layers, rest[0].id)
    expect([sky.kind, sky.name, sky.mask]).toEqual(['picture', 'Amber', null])
    expect(land.mask?.recipe.steps.map((step) => step.kind)).toEqual(['sky', 'edge', 'invert'])
    expect([land.mask?.sceneLayer, land.mask?.fringe]).toEqual(['photo', 1])
    // Its steps look at the photo alone, as they did when it was measured: what was found then stands.
    const looked = project.scenes?.find((scene) => scene.id === land.mask?.scene)?.layers
    expect(looked).toEqual(photoAlone(bare().layers, 'photo'))
    expect(looksOf(looked!)).toBe(looksOf(photoAlone(bare().layers, 'photo')))
    expect([light.kind, light.clipped]).toEqual(['adjust', true])
  })
  it('is found from any of its layers and from the photo, however deep it lies', () => {
    const deep = edited(withSky(), (draft) => {
      const group = draft.layers.find((layer) => layer.name === 'New sky')!.id
      groupLayers(['photo', group], 'around', 'Scene')(draft)
    })
    for (const { id, kind, name } of deep.layers.filter((layer) => layer.id !== 'around')) {
      const parts = newSkyAt(deep.layers, id)
      expect(parts?.photo.id, `${kind} ${name}`).toBe('photo')
      expect(parts?.sky?.name, `${kind} ${name}`).toBe('Amber')
    }
    expect(newSkyAt(deep.layers, 'around')).toBeUndefined()
    expect(newSkyAt(deep.layers, 'nobody')).toBeUndefined()
    const plainFill = edited(
      bare(),
      addLayer(fillLayer('fill', 'Colour', photo, { kind: 'colour', colour: '#334455' }), 'photo'),
    )
    expect(newSkyAt(plainFill.layers, 'fill')).toBeUndefined()
    expect(newSkyAt(plainFill.layers, 'photo')?.group).toBeUndefined()
  })
  it('exchanged, it keeps what the editor set and takes what was measured', () => {
    const first = withSky(),
      parts = newSkyAt(first.layers, 'photo')!
    const set = edited(first, (draft) => {
      changeLayer(parts.light!.id, {
        adjustment: { ...parts.light!.adjustment, tone: 0.3 } as AdjustmentOf<'relight'>,
      })(draft)
      placeLayer(parts.sky!.id, [2, 0, 0, 2, -50, -60])(draft)
    })
    const now = newSkyAt(set.layers, 'photo')!,
      next = edited(set, exchangeSky({ sky: now.sky!, light: now.light! }, grey, plan([0.2, 0.25, 0.3], 7), newId)),
      { sky, light } = newSkyAt(next.layers, 'photo')!
    expect(next.layers.length).toBe(set.layers.length)
    expect([sky!.asset, sky!.name, sky!.width, sky!.placement]).toEqual([grey.asset, 'Grey', 1200, [1, 0, 0, 1, 7, 0]])
    expect(light!.adjustment).toMatchObject({ tone: 0.3, ambient: [0.2, 0.25, 0.3] })
  })
  it('the old sky is what the mask of the land leaves out, as the editor has made it', () => {
    expect(oldSky(newSkyAt(bare().layers, 'photo')!, newId).steps.map((step) => step.kind)).toEqual(['sky', 'edge'])
    const project = withSky(),
      parts = newSkyAt(project.layers, 'photo')!,
      { steps, area } = oldSky(parts, newId)
    expect(steps).toEqual(parts.land!.mask!.recipe.steps.slice(0, -1))
    expect([area?.sceneLayer, area?.frame]).toEqual(['photo', { width: 900, height: 600 }])
    const home = { kind: 'mask', layer: parts.land!.id } as const,
      turned = edited(project, switchBackground(home, false, 'unused')),
      back = oldSky(newSkyAt(turned.layers, 'photo')!, newId)
    expect(back.steps.map((step) => step.kind)).toEqual(['sky', 'edge', 'invert'])
  })
  it('selected water mirrors the sky: over all that is clipped to the land; its horizon goes with the sky’s, its values with the next sky', () => {
    const apart = edited(
        edited(
          withSky(),
          addStep(SELECTION, parseStep({ kind: 'rectangle', x: 0, y: 400, width: 900, height: 200, id: 'box' })),
        ),
        (draft) => {
          const { light } = newSkyAt(draft.layers, 'photo')!
          subjectApart(light!, newId)(draft)
        },
      ),
      chosen = edited(
        apart,
        addStep(SELECTION, parseStep({ kind: 'rectangle', x: 0, y: 300, width: 900, height: 300, id: 'water' })),
      ),
      first = newSkyAt(chosen.layers, 'photo')!,
      wet = edited(chosen, skyInWater(first, plan([0.4, 0.3, 0.2]).reflection, newId)),
      parts = newSkyAt(wet.layers, 'photo')!
    expect(childrenOf(wet.layers, parts.group!.id).map((layer) => layer.name)).toEqual([
      'Amber',
      'Land',
      'Light on the land',
      'Light on the subject',
      'Haze',
      'Sky in the water',
    ])
    expect([parts.water!.clipped, parts.water!.mask?.recipe.steps[0].kind]).toEqual([undefined, 'rectangle'])
    expect([parts.haze!.mask?.invert, parts.haze!.mask?.recipe]).toEqual([true, parts.water!.mask!.recipe])
    expect(wet.selection.steps).toEqual([])
    expect(wet.activeLayer).toBe(chosen.activeLayer)
    expect(edited(withSky(), skyInWater(first, plan([1, 1, 1]).reflection, newId)).layers.length).toBe(
      withSky().layers.length,
    )
    // What was found in the photo, with nothing selected.
    const dry = withSky(),
      at = newSkyAt(dry.layers, 'photo')!,
      wetter = edited(dry, skyInWater(at, plan([0.4, 0.3, 0.2]).reflection, newId, waterSteps(newId))),
      found = newSkyAt(wetter.layers, 'photo')!
    expect([found.water?.mask?.sceneLayer, found.water?.mask?.recipe.steps[0].kind]).toEqual(['photo', 'water'])
    expect(found.haze?.mask?.invert).toBe(true)
    // Where the water goes, haze lies there again; not where the editor has changed where it lies, and not where another layer goes.
    const hazeMask = (before: Project, gone: string) =>
      newSkyAt(edited(before, hazeOverWater(gone)).layers, 'photo')!.haze!.mask
    expect(hazeMask(wetter, found.water!.id)).toBeNull()
    expect(hazeMask(edited(wetter, changeMask(found.haze!.id, { invert: false })), found.water!.id)).not.toBeNull()
    expect(hazeMask(wetter, found.light!.id)).not.toBeNull()
    const moved = edited(wet, moveHorizon(parts, 250)),
      lying = newSkyAt(moved.layers, 'photo')!
    expect([lying.water!.adjustment, lying.haze!.adjustment]).toMatchObject([{ horizon: 250 }, { horizon: 250 }])
    const other = plan([0.2, 0.2, 0.2]),
      next = edited(
        moved,
        exchangeSky(
          { ...lying, sky: lying.sky!, light: lying.light! },
          grey,
          { ...other, reflection: { ...other.reflection, was: [0.2, 0.3, 0.4], horizon: 310 } },
          newId,
        ),
      )
    // The horizon was moved by hand, the colour was not.
    expect(newSkyAt(next.layers, 'photo')!.water!.adjustment).toMatchObject({ was: [0.2, 0.3, 0.4], horizon: 250 })
  })
  it('made with steps that find water it comes with it, looking at the photo alone', () => {
    const water = [{ ...parseStep({ kind: 'rectangle', x: 0, y: 300, width: 900, height: 300 }), id: 'found' }],
      project = edited(bare(), replaceSky('photo', amber, skySteps(photo, newId), plan([0.4, 0.3, 0.2]), newId, water)),
      parts = newSkyAt(project.layers, 'photo')!
    expect(parts.water!.mask).toMatchObject({ sceneLayer: 'photo', recipe: { steps: [{ id: 'found' }] } })
    expect(project.scenes?.find(({ id }) => id === parts.water!.mask!.scene)?.layers).toEqual(
      photoAlone(bare().layers, 'photo'),
    )
  })
  it('takes the photo’s grain, measured anew with each sky as long as nobody set it', () => {
    const bareSky = withSky(),
      exchange = (project: Project, amount: number) => {
        const parts = newSkyAt(project.layers, 'photo')!
        return edited(
          project,
          exchangeSky(
            { ...parts, sky: parts.sky!, light: parts.light! },
            grey,
            plan([0.2, 0.2, 0.2], 0, amount),
            newId,
          ),
        )
      },
      grainOf = (project: Project) => newSkyAt(project.layers, 'photo')!.grain
    expect(grainOf(bareSky)).toBeUndefined()
    const grainy = exchange(bareSky, 0.1),
      again = exchange(grainy, 0.2)
    expect([grainOf(grainy)?.adjustment, grainOf(grainy)?.clipped]).toMatchObject([
      { kind: 'grain', amount: 0.1 },
      true,
    ])
    expect(grainOf(again)?.adjustment).toMatchObject({ amount: 0.2 })
    expect(grainOf(exchange(again, 0))?.adjustment).toMatchObject({ amount: 0 })
    const set = edited(
        again,
        changeLayer(grainOf(again)!.id, {
          adjustment: { ...grainOf(again)!.adjustment, amount: 0.7 } as AdjustmentOf<'grain'>,
        }),
      ),
      kept = grainOf(exchange(set, 0.3))
    expect([kept?.adjustment, kept?.measured]).toMatchObject([{ amount: 0.7 }, { amount: 0.3 }])
    // It lies on the sky, under the land.
    const order = childrenOf(set.layers, newSkyAt(set.layers, 'photo')!.group!.id).map((layer) => layer.name)
    expect(order).toEqual(['Grey', 'Grain of the photo', 'Land', 'Light on the land', 'Haze'])
  })
  it('a subject apart has the same light by itself, the land’s leaves it out, and both are measured anew', () => {
    const selected = edited(
        withSky(),
        addStep(SELECTION, parseStep({ kind: 'ellipse', id: 'e', x: 9, y: 9, width: 90, height: 90 })),
      ),
      { light } = newSkyAt(selected.layers, 'photo')!,
      apart = edited(selected, subjectApart(light!, newId)),
      parts = newSkyAt(apart.layers, 'photo')!
    expect([parts.light!.id, parts.apart!.name, parts.apart!.clipped]).toEqual([
      light!.id,
      'Light on the subject',
      true,
    ])
    expect(parts.apart!.mask?.recipe.steps.map((step) => step.kind)).toEqual(['ellipse'])
    expect([parts.light!.mask?.invert, parts.light!.mask?.recipe]).toEqual([true, parts.apart!.mask?.recipe])
    expect(apart.selection.steps).toEqual([])
    const set = edited(
        apart,
        changeLayer(parts.apart!.id, { adjustment: { ...parts.apart!.adjustment, tone: 0.2 } as never }),
      ),
      now = newSkyAt(set.layers, 'photo')!,
      next = newSkyAt(
        edited(set, exchangeSky({ ...now, sky: now.sky!, light: now.light! }, grey, plan([0.9, 0.9, 0.9]), newId))
          .layers,
        'photo',
      )!
    expect(next.apart!.adjustment).toMatchObject({ tone: 0.2, ambient: [0.9, 0.9, 0.9] })
    expect(next.light!.adjustment).toMatchObject({ tone: 1, ambient: [0.9, 0.9, 0.9] })
    // Without anything selected nothing comes of it.
    expect(edited(withSky(), subjectApart(newSkyAt(withSky().layers, 'photo')!.light!, newId)).layers.length).toBe(
      withSky().layers.length,
    )
  })
})
