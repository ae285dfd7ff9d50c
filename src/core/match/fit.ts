/**
 * How well a sky fits a photo before anything is changed: what an editor looks at first, weighed by how much it tells the sky a place was taken under
 * from others (a conditional logit on 102 ray-traced views; docs/QUALITY.md has the figures on others).
 */
import { luma } from '../compose/adjustments/adjustment'
import { type Measures } from './measure'
import { newSkyOf } from './newSky'
import { type Light, type SkyLight } from './skyLight'
import { type SkyPicture } from './skyPicture'

/** What may speak against a sky: each with the sentence for one way it is off and the other. */
const WHY = {
  brightness: ['lighter at the horizon', 'darker at the horizon'],
  warmth: ['warmer at the horizon', 'cooler at the horizon'],
  direct: ['more direct sun', 'less direct sun'],
  size: ['small: would be soft', ''],
} as const

/** For each: a stop of the air's luminance; a stop of its red against its blue; all of the light being direct or none; a doubling of its size. */
const WEIGHT = { brightness: 1, warmth: 1.3, direct: 0.44, size: 0.5 } as const
/** What costs less than this nobody sees. */
const SEEN = 0.15

export interface Fit {
  /** 0-100; each further unit of what speaks against it halves it. */
  readonly score: number
  /** What counts most, in a few words. */
  readonly reason: string
  readonly mirrored: boolean
}

const directShare = ({ ambient, direct }: SkyLight): number => {
  const sun = luma(...direct)
  return sun / Math.max(1e-6, luma(...ambient) + sun)
}
const LEAST = 1e-3
const stops = (now: number, before: number): number => Math.log2((now + LEAST) / (before + LEAST))
const warmth = ([red, , blue]: Light): number => stops(red, blue)

/** Null where the photo has no sky to be replaced. */
export function fitOf(photo: Measures, sky: SkyPicture): Fit | null {
  const plan = newSkyOf(photo, sky)
  if (!plan || !photo.light || !photo.air) return null
  const off: Record<keyof typeof WHY, number> = {
      brightness: stops(luma(...sky.air), luma(...photo.air)),
      warmth: warmth(sky.air) - warmth(photo.air),
      direct: directShare(sky.light) - directShare(photo.light.sky),
      size: Math.max(0, Math.log2(Math.abs(plan.placement[0]))),
    },
    costs = (Object.keys(off) as (keyof typeof WHY)[]).map((what) => ({
      what,
      cost: WEIGHT[what] * Math.abs(off[what]),
    })),
    most = costs.reduce((a, b) => (b.cost > a.cost ? b : a)),
    [more, less] = WHY[most.what]
  return {
    score: Math.round(100 * 2 ** -costs.reduce((sum, { cost }) => sum + cost, 0)),
    reason: most.cost < SEEN ? 'fits at the horizon' : off[most.what] > 0 ? more : less,
    mirrored: plan.mirrored,
  }
}
