import { type FindingKind } from './step'
import { number } from '../fields/fields'
import { type Stroke } from '../raster/stroke'
import { strokes } from './paint'

export interface EdgePaintFields {
  strokes: readonly Stroke[]
  /** 0-1: how small a change of colour is an edge. */
  sensitivity: number
}

/**
 * Edge paint: a brush that stops at edges under it. Each dab covers what hangs together with its middle and is of its colour there.
 * Source: Adams and Bischof, "Seeded region growing", IEEE PAMI 16 (1994), within each dab.
 */
export const edgePaint: FindingKind<'edgePaint', EdgePaintFields> = {
  kind: 'edgePaint',
  finds: true,
  looksAtPixels: true,
  fields: { strokes, sensitivity: number(0, 1, 0.5) },
}
