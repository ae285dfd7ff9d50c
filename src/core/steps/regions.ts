import { type FindingKind } from './step'
import { number, points } from '../fields/fields'

export interface RegionsFields {
  /** Points in the wanted regions, px. */
  at: readonly (readonly [number, number])[]
  /** 0 (coarse) - 1 (fine). */
  detail: number
}

/**
 * Regions: those of the picture's own hierarchy that hold the given points, coarser or finer. The tree is made once for a picture, at a level
 * small enough, and knows what stands out, so that a thing's parts go together before they go with what lies around them; a chosen region's
 * outline is then found at full size in a band around it.
 */
export const regions: FindingKind<'regions', RegionsFields> = {
  kind: 'regions',
  finds: true,
  looksAtPixels: true,
  fields: { at: points(10_000), detail: number(0, 1, 0.5) },
}
