/** A photo, skies to be put into it, and what is planned for them. */
import { parseAdjustment, type AdjustmentOf } from '@/core/compose/adjustments/registry'
import { type NewSky } from '@/core/match/newSky'
import { projectOf } from '@/document/edits'
import { edited } from '@/document/history'
import { replaceSky, skySteps } from '@/document/newSky'
import { type Project } from '@/document/records'

export const asset = (letter: string) => letter.repeat(64),
  photo = { asset: asset('a'), width: 900, height: 600, name: 'Quay' },
  amber = { asset: asset('b'), width: 1500, height: 1000, name: 'Amber' },
  grey = { asset: asset('c'), width: 1200, height: 800, name: 'Grey' }
export const plan = (ambient: number[], x = 0, grain = 0): NewSky => ({
  grain: grain ? (parseAdjustment({ kind: 'grain', amount: grain }) as AdjustmentOf<'grain'>) : null,
  blur: null,
  haze: parseAdjustment({ kind: 'haze', amount: 0.1, had: 0.1 }) as AdjustmentOf<'haze'>,
  reflection: parseAdjustment({ kind: 'reflection', horizon: 300 }) as AdjustmentOf<'reflection'>,
  placement: [1, 0, 0, 1, x, 0],
  mirrored: false,
  relight: parseAdjustment({ kind: 'relight', light: [0.8, 0.8, 0.8], ambient }) as AdjustmentOf<'relight'>,
})
export let count = 0
export const newId = () => `id${++count}`
export const bare = () => projectOf('Tour', photo, 'photo')
export const withSky = (project: Project = bare()) =>
  edited(project, replaceSky('photo', amber, skySteps(photo, newId), plan([0.4, 0.3, 0.2]), newId))
