import { type FindingKind } from './step'
import { number, points } from '../fields/fields'

export interface RegionsFields {
  /** Points in the wanted regions, px. */
  at: readonly (readonly [number, number])[]
  /** 0 (coarse) - 1 (fine). */
  detail: number
}

/** Regions: what holds the given points, coarser or finer: the thing they lie on, and finer its parts, regions of the picture's own hierarchy. */
export const regions: FindingKind<'regions', RegionsFields> = {
  kind: 'regions',
  finds: true,
  looksAtPixels: true,
  drafts: true,
  fields: { at: points(10_000), detail: number(0, 1, 0.5) },
}
