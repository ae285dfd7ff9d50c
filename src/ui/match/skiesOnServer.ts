/** Calls about the library of skies. */
import { type SkyPicture } from '@/core/match/skyPicture'
import { call, json, type StoredPicture } from '@/ui/store/server'

export interface Sky extends StoredPicture {
  name: string
  /** Empty: in none. */
  group: string
  /** What its picture says; null as long as nobody has read it. */
  reads: SkyPicture | null
}
export type SkyChange = Partial<Pick<Sky, 'name' | 'group'> & { reads: SkyPicture }>
export const listSkies = () => call<{ skies: Sky[] }>('/api/skies').then((r) => r.skies)
export const addSky = (asset: string, sky: SkyChange) => call('/api/skies', json('POST', { asset, ...sky }))
export const changeSky = (asset: string, change: SkyChange) => call(`/api/skies/${asset}`, json('PATCH', change))
export const removeSky = (asset: string) => call(`/api/skies/${asset}`, { method: 'DELETE' })
/** @param name empty: its skies are in no group */
export const renameSkyGroup = (group: string, name: string) => call('/api/skies', json('PATCH', { group, name }))
