/** Haze and water of a new sky go along with its lights. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type AdjustmentOf, type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { gainsOf } from '@/core/compose/adjustments/relight'
import { addStep } from './edits'
import { edited } from './history'
import { exchangeSky, replaceSky, skyInWater, skySteps } from './newSky'
import { newSkyAt } from './newSkyParts'
import { type Project, SELECTION } from './records'
import { changeAdjustment, skyFollowsLand } from './skyLikeLand'
import { parseStep } from '@/core/formats/recipe'
import { amber, bare, grey, newId, photo, plan } from '../../tests/setups/newSky'

/** How the old air and the old sky looked before. */
const OLD = [0.31, 0.35, 0.42]
/** Planned as newSkyOf does: in the light that the whole of the new sky gives. */
function planned(ambient: number[], air: number[]) {
  const made = plan(ambient),
    gains = gainsOf(made.relight),
    was = OLD.map((v, c) => v * gains[c])
  return { ...made, haze: { ...made.haze, was, air }, reflection: { ...made.reflection, was } }
}
const first = planned([0.4, 0.3, 0.2], [0.9, 0.5, 0.3]),
  second = planned([0.2, 0.3, 0.5], [0.3, 0.4, 0.6]),
  water = [{ ...parseStep({ kind: 'rectangle', x: 0, y: 300, width: 900, height: 300 }), id: 'found' }],
  start = edited(bare(), replaceSky('photo', amber, skySteps(photo, newId), first, newId, water)),
  partsOf = (project: Project) => newSkyAt(project.layers, 'photo')!,
  valuesOf = (project: Project) => {
    const { haze, water, light } = partsOf(project)
    return {
      haze: haze!.adjustment as AdjustmentOf<'haze'>,
      water: water!.adjustment as AdjustmentOf<'reflection'>,
      light: light!.adjustment as AdjustmentOf<'relight'>,
    }
  }
const change = (project: Project, layer: 'light' | 'exposure' | 'whiteBalance', values: object) => {
  const { id, adjustment } = partsOf(project)[layer]!
  return edited(project, changeAdjustment(id, { ...adjustment, ...values }))
}
const near = (values: readonly number[], wanted: readonly number[]) =>
  values.forEach((v, c) => expect(v).toBeCloseTo(wanted[c], 9))
const share = fc.double({ min: 0, max: 1, noNaN: true })

describe('the lights of a new sky', () => {
  it('the old air and the old sky lie in the light the land has, however often it changes, under the next sky, too', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ tone: share, colour: share, direct: share }), { minLength: 1, maxLength: 4 }),
        fc.boolean(),
        (changes, exchanged) => {
          let project = changes.reduce((now, values) => change(now, 'light', values), start)
          if (exchanged) {
            const parts = partsOf(project)
            project = edited(
              project,
              exchangeSky({ ...parts, sky: parts.sky!, light: parts.light! }, grey, second, newId),
            )
          }
          const { haze, water, light } = valuesOf(project),
            gains = gainsOf(light)
          for (const { was } of [haze, water]) near(was, OLD.map((v, c) => v * gains[c])) // prettier-ignore
        },
      ),
    )
  })
  it('water that is selected afterwards mirrors the same', () => {
    const dry = edited(bare(), replaceSky('photo', amber, skySteps(photo, newId), first, newId)),
      darker = change(dry, 'light', { tone: 0.3, colour: 0.8 }),
      chosen = edited(darker, addStep(SELECTION, parseStep({ kind: 'ellipse', id: 'e', x: 9, y: 300, width: 90, height: 90 }))), // prettier-ignore
      wet = edited(chosen, skyInWater(partsOf(chosen), first.reflection, newId)),
      { water: found, light } = valuesOf(wet),
      gains = gainsOf(light)
    near(found.was, OLD.map((v, c) => v * gains[c])) // prettier-ignore
  })
  it('the new air is as light and of the same colour as its sky, and back', () => {
    let project = edited(start, skyFollowsLand(partsOf(start), newId))
    expect(valuesOf(project).haze.air).toEqual([0.9, 0.5, 0.3])
    project = change(project, 'exposure', { stops: -1 })
    near(valuesOf(project).haze.air, [0.45, 0.25, 0.15])
    project = change(project, 'whiteBalance', { temperature: 0.5 })
    const [red, , blue] = valuesOf(project).haze.air
    expect(red / blue).toBeGreaterThan(3.2)
    // What was set by hand stays, whatever the land follows of it.
    const part = change(project, 'light', { tone: 0 })
    expect(valuesOf(part).haze.air[1]).toBe(valuesOf(project).haze.air[1])
    project = change(change(project, 'whiteBalance', { temperature: 0 }), 'exposure', { stops: 0 })
    near(valuesOf(project).haze.air, [0.9, 0.5, 0.3])
    expect(partsOf(project).haze!.measured).toEqual(partsOf(project).haze!.adjustment)
  })
  it('of what is no light nothing goes along', () => {
    const { haze } = partsOf(start),
      more = edited(start, changeAdjustment(haze!.id, { ...haze!.adjustment, amount: 0.7 } as AdjustmentRecord))
    expect(valuesOf(more)).toEqual({ ...valuesOf(start), haze: { ...valuesOf(start).haze, amount: 0.7 } })
  })
})
