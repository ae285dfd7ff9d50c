/**
 * How a thing that was cut out is brought to look at home where it is put: the light of what lay around it in its own photo against the light of what
 * lies around it now, channel by channel; the same for contrast, blur and grain.
 * What tells the light best was chosen on ray-traced places, a part of one under one sky put into the same place under another, with the exact answer
 * (docs/QUALITY.md). That composites look real where luminance, colour and contrast agree: Xue, Agarwala, Dorsey and Rushmeier, "Understanding and
 * improving the realism of image composites", SIGGRAPH 2012.
 */
import { fromLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { BRIGHTNESS_REACH, CONTRAST_REACH } from '../compose/adjustments/brightnessContrast'
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { blurOf } from './edgeBlur'
import { grainOf } from './grain'
import { lackingGrain } from './lackingGrain'
import { lightSideOf } from './lightSide'
import { sideShading } from './sideShading'
import { LEAST_BLUR, softening } from './softening'
import { smallLevel, smallPicture } from './smallLevel'
import { sideOf } from './toldSide'
import { isDirect, type Light, skyLightOf } from './skyLight'

/** What a layer and its surroundings look like where it stands, all of the same size. */
export interface Surroundings {
  /** The layer without its mask. */
  readonly own: Picture
  /** What of it shows. */
  readonly shows: Matte
  /** What lies below it. */
  readonly below: Picture
  /** Coverage of sky in either, of a small level's size (smallLevel.ts); null where there is none. Sky is lit by nothing. */
  readonly sky: { readonly own: Matte | null; readonly below: Matte | null }
}

export interface MatchedLayer {
  readonly relight: AdjustmentOf<'relight'>
  /** Light from the side it has around the layer, where that is lit from the other; no stops where it is not. */
  readonly sideLight: AdjustmentOf<'sideLight'>
  readonly contrast: AdjustmentOf<'brightnessContrast'>
  readonly blur: AdjustmentOf<'gaussianBlur'>
  readonly grain: AdjustmentOf<'grain'>
  /** Where light comes from, on the layer and around it: −1 (left) to 1 (right); null where it cannot be told. */
  readonly side: { readonly own: number | null; readonly around: number | null }
}

/** Added to light, so that black does not decide (linear). */
const DARK = 0.005
/** With more of its own photo around it than this share of the part looked at, that tells the light it was in; else the thing itself does. */
const OWN = 0.2
/** How far contrast follows: half was best, all of it was worse. */
const FOLLOW = 0.5
/** A thing is round as far in from its outline as this share of its size (the root of its area). */
const ROUND = 0.35
/** Light changes sides by at most so many stops. */
const MOST_SIDED = 1.5
/** Contrast changes by at most so many times. */
const MOST_CONTRAST = 1.6

interface Seen {
  readonly light: Light
  /** Standard deviation of the logarithm of luminance. */
  readonly contrast: number
}

/** Null where the layer shows nothing, or there is nothing around it. */
export function matchLayer({ own, shows, below, sky }: Surroundings): MatchedLayer | null {
  const { small, cover } = smallLevel(own, shows),
    hidden = cover.data.map((v) => (v < 13 ? 255 : 0)),
    smallBelow = smallPicture(below),
    lit = (picture: Picture, open: Matte | null) =>
      (open &&
        seenIn(
          picture,
          open.data.map((v) => 255 - v),
        )) ??
      seenIn(picture),
    itself = seenIn(small, cover.data),
    itsLand = shareOf(small, hidden) >= OWN ? lit(small, sky.own) : null,
    land = lit(smallBelow, sky.below)
  // Its own photo as a whole is compared with what is there as a whole; the thing alone with what stands there.
  const was = itsLand ? seenIn(small) : itself,
    around = itsLand ? seenIn(smallBelow) : land
  if (!itself || !was || !land || !around) return null
  const ratio = Math.min(
      MOST_CONTRAST,
      Math.max(1 / MOST_CONTRAST, land.contrast / Math.max(1e-3, (itsLand ?? itself).contrast)),
    ),
    thing = masked(own, shows),
    sigma = [blurOf(thing) ?? blurOf(own), blurOf(below)],
    blur = sigma[0] === null || sigma[1] === null ? 0 : Math.sqrt(Math.max(0, sigma[1] ** 2 - sigma[0] ** 2)),
    grains = [grainOf(thing) ?? grainOf(own), grainOf(below)]
  const softer = blur >= LEAST_BLUR ? blur : 0,
    gain = luma(...around.light) / luma(...was.light),
    open = sky.below && skyLightOf(smallBelow, sky.below.data),
    overcast = open !== null && !isDirect(open),
    side = {
      own: lightSideOf(small, { ...small, data: cover.data.map((v) => 255 - v) }),
      around: overcast ? null : lightSideOf(smallBelow, sky.below ?? noneOf(small)),
    },
    tone = Math.min(0.98, Math.max(0.02, fromLinear(luma(...itself.light) * gain)))
  return {
    relight: {
      kind: 'relight',
      tone: 1,
      colour: 1,
      direct: 1,
      light: was.light.map(rounded),
      ambient: around.light.map(rounded),
      sun: [0, 0, 0],
    },
    contrast: contrastAbout(tone, (itsLand ? FOLLOW : FOLLOW / 2) * Math.log2(ratio)),
    blur: softening(softer),
    grain: (grains[1] &&
      lackingGrain(grains[1], tone, (grains[0]?.deviation ?? 0) * gain ** (1 / 2.2) * leftBy(softer))) || {
      kind: 'grain',
      amount: 0,
      size: 1,
      coloured: false,
      seed: 1,
    },
    sideLight: lightFrom(
      small,
      cover,
      own.width / small.width,
      sideOf(side.own),
      overcast ? 'everywhere' : sideOf(side.around),
    ),
    side,
  }
}

/** What takes the light on a thing away from one side, and puts as much on the other where it comes from there. @param scale of the small level, px of the layer */
export function lightFrom(
  small: Picture,
  cover: Matte,
  scale: number,
  own: 'left' | 'right' | null,
  around: 'left' | 'right' | 'everywhere' | null,
): AdjustmentOf<'sideLight'> {
  const radius = ROUND * Math.sqrt(cover.data.reduce((sum, v) => sum + v, 0) / 255),
    shaded = sideShading(small, cover, radius),
    differs = own !== null && around !== null && own !== around && (shaded < 0 ? 'left' : 'right') === own,
    stops = differs ? Math.min(MOST_SIDED, Math.abs(shaded) * (around === 'everywhere' ? 1 : 2)) : 0
  return {
    kind: 'sideLight',
    stops: Math.round(100 * stops) / 100,
    angle: shaded < 0 ? 90 : -90,
    radius: Math.round(radius * scale),
  }
}
/** Contrast that leaves a tone where it is. @param steep how much, as a power of two */
function contrastAbout(tone: number, steep: number): AdjustmentOf<'brightnessContrast'> {
  // The tone that the steeper curve brings back to this one, and the bend that brings this one there.
  const by = 2 ** -steep,
    from = tone < 0.5 ? 0.5 * (2 * tone) ** by : 1 - 0.5 * (2 - 2 * tone) ** by,
    bend = Math.log(from) / Math.log(tone)
  return {
    kind: 'brightnessContrast',
    brightness: rounded(-Math.log2(bend) / BRIGHTNESS_REACH),
    contrast: rounded(steep / CONTRAST_REACH),
  }
}
const rounded = (v: number): number => Math.round(1e4 * v) / 1e4

/** What a Gaussian leaves of grain's deviation: one over twice its sigma and the root of pi (its kernel's length). */
const leftBy = (sigma: number): number => (sigma > 0 ? Math.min(1, 1 / (2 * Math.sqrt(Math.PI) * sigma)) : 1)

/** The geometric mean of the light, and how far it varies; of what `part` covers where it is given. Null where there is too little. */
function seenIn({ data }: Picture, part?: ArrayLike<number>): Seen | null {
  const sum = [0, 0, 0]
  let count = 0,
    logs = 0,
    squares = 0
  for (let p = 0, i = 0; i < data.length; p++, i += 4) {
    if (data[i + 3] < 250 || (part && part[p] < 250)) continue
    const light = [LINEAR_OF_BYTE[data[i]], LINEAR_OF_BYTE[data[i + 1]], LINEAR_OF_BYTE[data[i + 2]]] as const,
      log = Math.log(DARK + luma(...light))
    for (let c = 0; c < 3; c++) sum[c] += Math.log(DARK + light[c])
    logs += log
    squares += log * log
    count++
  }
  if (count < ENOUGH) return null
  const mean = sum.map((v) => Math.exp(v / count)) as unknown as Light
  return {
    light: mean,
    contrast: Math.sqrt(Math.max(0, squares / count - (logs / count) ** 2)),
  }
}
/** Pixels. */
const ENOUGH = 64

const noneOf = ({ width, height }: Size): Matte => ({ width, height, data: new Uint8Array(width * height) })

/** Share of a picture that is opaque and in a part. */
function shareOf({ data }: Picture, part: ArrayLike<number>): number {
  let count = 0
  for (let p = 0; p < part.length; p++) if (part[p] && data[4 * p + 3] >= 250) count++
  return count / Math.max(1, part.length)
}

/** The picture where a matte is whole. */
function masked({ width, height, data }: Picture, { data: cover }: Matte): Picture {
  const out = data.slice()
  for (let p = 0; p < cover.length; p++) if (cover[p] < 255) out[4 * p + 3] = 0
  return { width, height, data: out }
}
