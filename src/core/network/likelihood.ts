/**
 * How probably each pixel belongs to what the hints mean: a box, places that are kept, places that are dropped, or nothing at all (then: the subject).
 * Source: Xu, Price, Cohen, Yang and Huang, "Deep interactive object selection", CVPR 2016 (marks as planes beside the colours).
 */
import { type Box } from '../raster/content'
import { type Picture, type Size } from '../raster/picture'
import { fillPolygons } from '../vector/fill'
import { CHANNELS, runNetwork, seeSky, STEP } from './network'

type Place = readonly [x: number, y: number]

/** In px of the picture. */
export interface Hints {
  /** What is meant lies within. */ readonly box?: readonly [x0: number, y0: number, x1: number, y1: number]
  readonly keep?: readonly Place[]
  readonly drop?: readonly Place[]
  /** Places on the outline of what is meant, one after the other round it; then the box is around them. */
  readonly anchors?: readonly Place[]
}

/** About so many px are seen by the network; as it was trained. */
export const SEEN = 31_000
/** Its longer side is at most so many times the shorter one. */
const LONGEST = 3
/** Standard deviation of a mark's bump, px of what is seen; as it was trained. */
const BUMP = 4

/** What is seen of a part of a picture, a plane of log-odds (nats). */
export interface Likelihood extends Size {
  /** The part, px of the picture. */ readonly part: Box
  readonly data: Float32Array
}

/** How probably, 0-1, from the logarithm of the odds. */
export const likely = (nats: number): number => 1 / (1 + Math.exp(-nats))

export function likelihood(picture: Picture, part: Box, { box, keep = [], drop = [], anchors }: Hints): Likelihood {
  const seen = colours(picture, part),
    { width, height, input } = seen,
    [sx, sy] = scaleOf(seen, part)
  if (box) {
    const [x0, x1] = [box[0], box[2]].map((x) => Math.round((x - part.x) * sx)),
      [y0, y1] = [box[1], box[3]].map((y) => Math.round((y - part.y) * sy))
    for (let y = 0, i = BOX; y < height; y++)
      for (let x = 0; x < width; x++, i += CHANNELS)
        input[i] = x >= x0 && x < x1 && y >= y0 && y < y1 ? (anchors ? 0 : 1) : -1
  }
  if (anchors) {
    const { data } = fillPolygons(seen, [anchors.map(([x, y]) => [(x - part.x) * sx, (y - part.y) * sy])], 'evenodd')
    for (let k = 0; k < data.length; k++) if (data[k] >= 128) input[k * CHANNELS + BOX] = 1
    mark(seen, part, anchors, KEEP)
    mark(seen, part, anchors, DROP)
  }
  mark(seen, part, keep, KEEP)
  mark(seen, part, drop, DROP)
  return { part, width, height, data: runNetwork(input, width, height, anchors ? 'anchors' : 'things') }
}

/**
 * Coverage where a trimap does not know, as the logarithm of its odds: what is known is kept or dropped all over.
 * @param picture its sides are multiples of STEP @param known 1 inside, 0 outside, else unknown
 */
export function coverageLikelihood(picture: Picture, known: Float32Array): Float32Array {
  const { width, height, input } = colours(picture, { x: 0, y: 0, ...picture }, picture)
  for (let i = 0; i < known.length; i++) {
    if (known[i] === 1) input[i * CHANNELS + KEEP] = 1
    else if (known[i] === 0) input[i * CHANNELS + DROP] = 1
  }
  return runNetwork(input, width, height)
}

/** Where water is in a picture. */
export function waterLikelihood(picture: Picture): Likelihood {
  const { part, width, height, input } = place(picture)
  return { part, width, height, data: runNetwork(input, width, height, 'water') }
}

/** Where sky is in a picture, and water, as it was taught beside. */
export function skyLikelihood(picture: Picture): { readonly water: Likelihood; readonly sky: Likelihood } {
  const { part, width, height, input } = place(picture),
    [water, sky] = seeSky(input, width, height)
  return { water: { part, width, height, data: water }, sky: { part, width, height, data: sky } }
}

/** What lies below the horizon of a picture, whether that is seen or hidden. */
export function horizonLikelihood(picture: Picture): Likelihood {
  const { part, width, height, input } = place(picture)
  return { part, width, height, data: runNetwork(input, width, height, 'horizon') }
}

/** In the box's place the network is told how far down a row lies, −1 to 1: as it was trained (training/trainPlaces.py). */
function place(picture: Picture): Seen & { readonly part: Box } {
  const part = { x: 0, y: 0, width: picture.width, height: picture.height },
    seen = colours(picture, part),
    { width, height, input } = seen
  for (let y = 0, i = BOX; y < height; y++)
    for (let x = 0; x < width; x++, i += CHANNELS) input[i] = (2 * y) / (height - 1) - 1
  return { part, ...seen }
}

/** What the network is shown of a part. */
interface Seen extends Size {
  readonly input: Float32Array
}

const BOX = 3,
  KEEP = 4,
  DROP = 5

const scaleOf = (seen: Size, part: Box) => [seen.width / part.width, seen.height / part.height] as const

function mark({ width, height, input }: Seen, part: Box, places: readonly Place[], channel: number): void {
  const [sx, sy] = scaleOf({ width, height }, part)
  for (const [x, y] of places) addBump(input, width, height, (x - part.x) * sx, (y - part.y) * sy, channel)
}

function seenSize({ width, height }: Size): Size {
  const aspect = Math.min(LONGEST, Math.max(1 / LONGEST, width / height)),
    whole = (side: number) => Math.max(4 * STEP, STEP * Math.round(side / STEP))
  return { width: whole(Math.sqrt(SEEN * aspect)), height: whole(Math.sqrt(SEEN / aspect)) }
}

function addBump(input: Float32Array, width: number, height: number, x: number, y: number, channel: number): void {
  const reach = 4 * BUMP
  for (let v = Math.max(0, Math.ceil(y - reach)); v < Math.min(height, y + reach); v++)
    for (let u = Math.max(0, Math.ceil(x - reach)); u < Math.min(width, x + reach); u++) {
      const i = (v * width + u) * CHANNELS + channel
      input[i] = Math.max(input[i], Math.exp(-((u - x) ** 2 + (v - y) ** 2) / (2 * BUMP * BUMP)))
    }
}

/** How much of each source px goes into each px along one side: by area when it becomes smaller, else between the two nearest. */
type Taps = readonly { readonly first: number; readonly weights: readonly number[] }[]
function taps(from: number, count: number, to: number): Taps {
  const scale = count / to
  return Array.from({ length: to }, (_, k) => {
    if (scale <= 1) {
      const middle = Math.min(count - 1, Math.max(0, (k + 0.5) * scale - 0.5)),
        left = Math.min(Math.floor(middle), Math.max(0, count - 2)),
        share = middle - left
      // On a px of the source none other counts.
      return share > 0 && share < 1
        ? { first: from + left, weights: [1 - share, share] }
        : { first: from + left + share, weights: [1] }
    }
    const start = k * scale,
      end = Math.min(count, start + scale),
      first = Math.floor(start),
      weights: number[] = []
    for (let i = first; i < end; i++) weights.push((Math.min(end, i + 1) - Math.max(start, i)) / (end - start))
    return { first: from + first, weights }
  })
}

/** The part's colours at the size that is seen, −1 to 1, with room for the hints. */
function colours(picture: Picture, part: Box, { width, height }: Size = seenSize(part)): Seen {
  const across = taps(part.x, part.width, width),
    down = taps(part.y, part.height, height),
    out = new Float32Array(width * height * CHANNELS),
    row = new Float32Array(width * 3)
  for (let y = 0; y < height; y++) {
    row.fill(0)
    const { first, weights } = down[y]
    for (let n = 0; n < weights.length; n++) addColours(row, picture, first + n, across, weights[n])
    for (let x = 0, i = y * width * CHANNELS; x < width; x++, i += CHANNELS)
      for (let c = 0; c < 3; c++) out[i + c] = row[3 * x + c] / 127.5 - 1
  }
  return { width, height, input: out }
}

/** Adds a row of the picture's colours, weighed. */
function addColours(row: Float32Array, { width, data }: Picture, y: number, across: Taps, weight: number): void {
  for (let x = 0; x < across.length; x++) {
    const { first, weights } = across[x]
    for (let k = 0; k < weights.length; k++) {
      const i = 4 * (y * width + first + k),
        w = weight * weights[k]
      row[3 * x] += w * data[i]
      row[3 * x + 1] += w * data[i + 1]
      row[3 * x + 2] += w * data[i + 2]
    }
  }
}

/** Its values at each px of the picture; `beyond` where nothing was seen. */
export function atEachPixel({ part, width, height, data }: Likelihood, size: Size, beyond: number): Float32Array {
  const out = new Float32Array(size.width * size.height).fill(beyond),
    across = taps(0, width, part.width),
    down = taps(0, height, part.height)
  for (let y = 0; y < part.height; y++) {
    const to = (part.y + y) * size.width + part.x
    out.fill(0, to, to + part.width)
    const { first, weights } = down[y]
    for (let n = 0; n < weights.length; n++)
      addValues(out, to, data.subarray((first + n) * width, (first + n + 1) * width), across, weights[n])
  }
  return out
}

/** Adds a row of values, weighed, from `to` on. */
function addValues(out: Float32Array, to: number, row: Float32Array, across: Taps, weight: number): void {
  for (let x = 0; x < across.length; x++) {
    const { first, weights } = across[x]
    for (let k = 0; k < weights.length; k++) out[to + x] += weight * weights[k] * row[first + k]
  }
}
