/** A layer matched to its surroundings: ordinary adjustments clipped to it, with what was measured. */
import { type MatchedLayer } from '@/core/match/surroundings'
import { type Edit } from './history'
import { type Affine } from '@/core/raster/affine'
import { addLayer, placeLayer } from './layers'
import { measuredLayer } from './layerRecords'
import { measureAnew } from './measured'
import { newSkyAt } from './newSkyParts'
import { childrenOf, clipBaseOf } from './tree'
import { type AdjustLayer, type Layer } from './records'
import { unwrap } from './unwrap'
import { withId } from './withId'

/** In the order in which they work, lowest first; and whether it does anything. */
const PARTS = [
  ['relight', 'Light of the surroundings', () => true],
  ['sideLight', 'Side of the light', ({ sideLight }) => sideLight.stops > 0],
  ['contrast', 'Contrast of the surroundings', ({ contrast }) => contrast.contrast !== 0],
  ['blur', 'Blur of the surroundings', ({ blur }) => blur.radius > 0],
  ['grain', 'Grain of the surroundings', ({ grain }) => grain.amount > 0],
] as const satisfies readonly (readonly [keyof MatchedLayer, string, (matched: MatchedLayer) => boolean])[]
type Part = (typeof PARTS)[number][0]
const KINDS = {
  relight: 'relight',
  sideLight: 'sideLight',
  contrast: 'brightnessContrast',
  blur: 'gaussianBlur',
  grain: 'grain',
} as const

export interface MatchedParts {
  /** What is matched, or may be. */
  readonly layer: Layer
  readonly parts: Partial<Record<Part, AdjustLayer>>
}

/** The layer that is chosen, or that the chosen one is clipped to, with what matches it to its surroundings; undefined for what cannot be matched. */
export function matchedAt(layers: readonly Layer[], id: string | null): MatchedParts | undefined {
  const chosen = withId(layers, id),
    layer = chosen?.clipped ? clipBaseOf(layers, chosen.id) : chosen
  if (!layer || layer.kind === 'adjust' || ofNewSky(layers, layer)) return undefined
  const siblings = childrenOf(layers, layer.parent),
    above = siblings.slice(siblings.indexOf(layer) + 1),
    end = above.findIndex((each) => !each.clipped),
    clipped = (end < 0 ? above : above.slice(0, end)).filter(
      (each): each is AdjustLayer => each.kind === 'adjust' && each.measured !== undefined,
    )
  const parts: Partial<Record<Part, AdjustLayer>> = {}
  for (const [part] of PARTS) {
    const found = clipped.find((each) => each.adjustment.kind === KINDS[part])
    if (found) parts[part] = found
  }
  return { layer, parts }
}

/** A new sky and the land before it are matched already: by the new sky. */
export function ofNewSky(layers: readonly Layer[], { id }: Layer): boolean {
  const parts = newSkyAt(layers, id)
  return parts?.sky?.id === id || parts?.land?.id === id
}

/** Turned round, its light comes from the side it should: what puts it there by itself does nothing, unless the editor has set it. */
export const turnedRound =
  ({ layer, parts: { sideLight } }: MatchedParts, placement: Affine): Edit =>
  (project) => {
    placeLayer(layer.id, placement)(project)
    if (sideLight?.measured) measureAnew(project, sideLight.id, { ...sideLight.measured, stops: 0 })
  }

/** Adds what is lacking, and measures anew what is there where the editor has not set it. The layer stays the one worked on. */
export const matchToSurroundings =
  ({ layer, parts }: MatchedParts, matched: MatchedLayer, newId: () => string): Edit =>
  (project) => {
    let below = layer.id
    for (const [part, name, does] of PARTS) {
      const there = parts[part]
      if (there) measureAnew(project, there.id, matched[part])
      else if (does(matched)) {
        const id = newId()
        addLayer({ ...measuredLayer(id, name, unwrap(project.canvas), matched[part]), clipped: true }, below)(project)
        below = id
      }
      if (there) below = there.id
    }
    project.activeLayer = layer.id
  }
