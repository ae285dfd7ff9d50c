/**
 * The light that a sky gives, read from its picture: what comes from all of it, and what the sun adds.
 * Open blue sky scatters short waves (Rayleigh) and lets the sun through; under clouds light comes from everywhere.
 * How much the sun adds was chosen on places ray-traced under several skies (docs/QUALITY.md has the figures on others).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma, smoothStep } from '../compose/adjustments/adjustment'
import { type Picture } from '../raster/picture'

/** Linear light, 1 is the picture's white. */
export type Light = readonly [red: number, green: number, blue: number]

export interface SkyLight {
  /** From all of the sky: its mean. */
  readonly ambient: Light
  /** What the sun adds on the land, on average over its sides. */
  readonly direct: Light
  /** Share of the sky that is open, 0-1. */
  readonly open: number
}

/** What the sun adds under an open sky; white sun light of a middle height. */
const SUN: Light = [0.68, 0.65, 0.56]
/** From this to this many times as much blue as red the sky is open. */
const BLUE_FROM = 1.4,
  BLUE_TO = 2.2
/** A sky darker than this has no sun in it, one lighter than that may have: luminance. */
const DARK = 0.12,
  LIGHT = 0.22

/** With less of the sky open there is no direct light. */
const DIRECT = 0.15
export const isDirect = ({ open }: SkyLight): boolean => open >= DIRECT

/** Of the pixels for which `counts` is at least 250; of all that are opaque where it is absent. Null where there are none. */
export function skyLightOf({ data }: Picture, counts?: Uint8Array): SkyLight | null {
  const sum = [0, 0, 0]
  let count = 0,
    open = 0
  for (let p = 0, i = 0; i < data.length; p++, i += 4) {
    if (data[i + 3] < 250 || (counts && counts[p] < 250)) continue
    const red = LINEAR_OF_BYTE[data[i]],
      green = LINEAR_OF_BYTE[data[i + 1]],
      blue = LINEAR_OF_BYTE[data[i + 2]]
    sum[0] += red
    sum[1] += green
    sum[2] += blue
    open += smoothStep(BLUE_FROM, BLUE_TO, blue / Math.max(red, 1e-3))
    count++
  }
  if (!count) return null
  const ambient: Light = [sum[0] / count, sum[1] / count, sum[2] / count],
    share = (open / count) * smoothStep(DARK, LIGHT, luma(...ambient))
  return { ambient, direct: [SUN[0] * share, SUN[1] * share, SUN[2] * share], open: open / count }
}
