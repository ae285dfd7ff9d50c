import { type FindingKind } from './step'
import { flag, length, number, point } from '../fields/fields'

export interface ColourSpotFields {
  /** The circle's centre, px. Outside the canvas it finds nothing. */
  at: readonly [number, number]
  /** px. */
  radius: number
  /** Up to this share of the radius it counts fully, from there it fades to the radius. 0-1. */
  core: number
  /** How far colour and texture may differ, CIELAB units. */
  spread: number
  /** False takes away what it finds. */
  keep: boolean
}

/** Spot: inside a circle of influence, what resembles the colour, tone and local texture at its centre. */
export const colourSpot: FindingKind<'colourSpot', ColourSpotFields> = {
  kind: 'colourSpot',
  finds: true,
  looksAtPixels: true,
  fields: {
    at: point(),
    radius: length(),
    core: number(0, 1, 0.5),
    spread: number(0, 100, 24, 'CIELAB units'),
    keep: flag(true),
  },
  combines: ({ keep }) => (keep ? undefined : 'subtract'),
}
