import { type FindingKind } from './step'

/** Water: what mirrors the sky and the shore below the horizon, as one thing with an outline on edges; what stands in it or swims on it is left out. */
export const water: FindingKind<'water', object> = {
  kind: 'water',
  finds: true,
  looksAtPixels: true,
  fields: {},
}
