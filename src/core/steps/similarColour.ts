import { type FindingKind } from './step'
import { flag, number, oneOf, point } from '../fields/fields'

/** Each channel by itself, or as colours look (CIELAB). */
export const METRICS = ['channel', 'perceptual'] as const
export type Metric = (typeof METRICS)[number]

export interface SimilarColourFields {
  /** Where the colour is picked, px. Outside the canvas it finds nothing. */
  at: readonly [number, number]
  /** 0-255. */
  tolerance: number
  contiguous: boolean
  /** Side of the square whose mean colour is picked, px. */
  patch: 1 | 3 | 5
  metric: Metric
  antialias: boolean
}

/**
 * Similar: the pixels whose colour is near the one picked, connected to it or everywhere.
 */
export const similarColour: FindingKind<'similarColour', SimilarColourFields> = {
  kind: 'similarColour',
  finds: true,
  looksAtPixels: true,
  fields: {
    at: point(),
    tolerance: number(0, 255, 32),
    contiguous: flag(true),
    patch: oneOf([1, 3, 5] as const, 1),
    metric: oneOf(METRICS, 'channel'),
    antialias: flag(true),
  },
}
