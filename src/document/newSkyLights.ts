/** The lights of a new sky, and what of its haze and its water depends on them. */
import { inOtherLights, type Lights, plannedLights } from '@/core/match/otherLights'
import { found, type ProjectDraft } from './drafts'
import { newSkyAt, type NewSkyLayers } from './newSkyParts'
import { unwrap } from './unwrap'

/** As they are now; undefined where the land has no light of a new sky. */
export function lightsOf(
  project: ProjectDraft,
  { light, exposure, whiteBalance }: Pick<NewSkyLayers, 'light' | 'exposure' | 'whiteBalance'>,
): Lights | undefined {
  const now = (layer: NewSkyLayers['light']) => {
      const draft = layer && found(project, layer.id)
      return draft?.kind === 'adjust' ? unwrap(draft.adjustment) : undefined
    },
    [relight, exposed, balance] = [light, exposure, whiteBalance].map(now)
  if (relight?.kind !== 'relight') return undefined
  return {
    ...plannedLights(relight),
    relight,
    ...(exposed?.kind === 'exposure' ? { exposure: exposed } : {}),
    ...(balance?.kind === 'whiteBalance' ? { whiteBalance: balance } : {}),
  }
}

/** Changes the lights of the new sky that a layer is of; its haze and its water go along. */
export function withLights(project: ProjectDraft, id: string, change: () => void): void {
  // Read as they are: at every tick of a slider, and only their ids count.
  const parts = () => newSkyAt(project.layers, id),
    lights = (now: NewSkyLayers | undefined) => now && lightsOf(project, now),
    from = lights(parts())
  change()
  const now = parts(),
    to = lights(now)
  if (!now || !from || !to) return
  for (const layer of [now.haze, now.water]) {
    const draft = layer && found(project, layer.id)
    if (draft?.kind !== 'adjust') continue
    // What was measured goes along, too: it is what the next sky replaces.
    for (const which of ['adjustment', 'measured'] as const) {
      const values = unwrap(draft[which])
      if (values?.kind === 'haze' || values?.kind === 'reflection') draft[which] = inOtherLights(values, from, to)
    }
  }
}
