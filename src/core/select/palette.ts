/** Palette: soft coverage by how near a pixel's colour is to the nearest of several picked ones. */
import { palette as paletteStep, type PaletteFields } from '../steps/palette'
import { labOf, labDifferenceTo } from '../colour/lab'
import { KERNEL_BASE, kernels } from '../kernels'
import { type Matte, type Picture, words } from '../raster/picture'
import { type Context, type Finder, type Scene } from './finder'
import { type Sample } from '../steps/step'

/** Distances are counted in halves of a CIELAB unit, up to MOST_STEPS of them. */
const STEPS_PER_UNIT = 2
const MOST_STEPS = 254
/** Bits kept of each channel in the table: a step of it is about one CIELAB unit. */
const BITS = 7,
  LEVELS = 1 << BITS,
  DROPPED = 8 - BITS
const MASK = ((LEVELS - 1) << DROPPED) & 255
/** A cell no pixel has asked for yet: there are far fewer colours in a picture than cells. */
const UNKNOWN = 255
/** Pixels looked at between two checks. */
const SLICE = 1 << 18

/** Coverage by the nearest of these colours over the whole picture, and the distances it comes from, in halves of a CIELAB unit (255 where nothing is). */
function measure(
  picture: Picture,
  palette: PaletteFields['colours'],
  coverage: Uint8Array,
  check: (progress: number) => void,
): { matte: Uint8Array; distance: Uint8Array } {
  const pixels = new Uint8Array(picture.data.buffer, picture.data.byteOffset, picture.data.length),
    shown = words(picture),
    total = shown.length
  const matte = new Uint8Array(total),
    distance = new Uint8Array(total)
  const differences = palette.map(([red, green, blue]) => labDifferenceTo(labOf(red, green, blue)))
  const table = KERNEL_BASE,
    map = table + LEVELS ** 3,
    source = map + 256,
    found = source + 4 * SLICE,
    covered = found + SLICE
  const { bytes, lookUpColours, mapBytes } = kernels(covered + SLICE)
  bytes.fill(UNKNOWN, table, map)
  bytes.set(coverage, map)
  for (let from = 0; from < total; from += SLICE) {
    check(from / total)
    const count = Math.min(SLICE, total - from)
    bytes.set(pixels.subarray(4 * from, 4 * (from + count)), source)
    for (
      let done = 0;
      (done += lookUpColours(source + 4 * done, found + done, count - done, table, BITS, UNKNOWN)) < count;
    )
      bytes[table + cellOf(shown[from + done])] = nearest(shown[from + done], differences)
    mapBytes(found, covered, count, map)
    distance.set(bytes.subarray(found, found + count), from)
    matte.set(bytes.subarray(covered, covered + count), from)
  }
  return { matte, distance }
}

/** Coverage of distances already measured. */
function mapped(distance: Uint8Array, coverage: Uint8Array): Uint8Array {
  const out = new Uint8Array(distance.length)
  const map = KERNEL_BASE,
    source = map + 256,
    covered = source + SLICE
  const { bytes, mapBytes } = kernels(covered + SLICE)
  bytes.set(coverage, map)
  for (let from = 0; from < out.length; from += SLICE) {
    const part = distance.subarray(from, from + SLICE)
    bytes.set(part, source)
    mapBytes(source, covered, part.length, map)
    out.set(bytes.subarray(covered, covered + part.length), from)
  }
  return out
}

const cellOf = (word: number): number =>
  ((word & MASK) >> DROPPED) |
  (((word >>> 8) & MASK) << (BITS - DROPPED)) |
  (((word >>> 16) & MASK) << (2 * BITS - DROPPED))

/** The least distance of a cell's middle colour. */
function nearest(word: number, differences: readonly ((word: number) => number)[]): number {
  const middle = (word & (MASK | (MASK << 8) | (MASK << 16))) | (0x010101 << (DROPPED - 1))
  let least = Infinity
  for (const difference of differences) least = Math.min(least, difference(middle))
  return Math.min(MOST_STEPS, Math.round(least * STEPS_PER_UNIT))
}

/** Coverage (0-255) for each distance: full up to spread·(1 − softness), none from spread·(1 + softness), a smooth step between. */
function paletteCoverage(spread: number, softness: number): Uint8Array {
  const full = spread * (1 - softness),
    none = Math.min(MOST_STEPS / STEPS_PER_UNIT, spread * (1 + softness))
  return Uint8Array.from({ length: 256 }, (_, step) => {
    const distance = Math.max(0, step - 1) / STEPS_PER_UNIT // a cell's middle lies up to half a unit from its colours
    if (distance <= full) return 255
    if (distance >= none) return 0
    const t = (none - distance) / (none - full)
    return Math.round(255 * t * t * (3 - 2 * t))
  })
}

/** Soft coverage by the nearest of these colours, over the whole picture. */
export function paletteMatte(
  scene: Scene,
  { colours: picked, spread, softness }: PaletteFields,
  sample: Sample,
  context: Context,
): Matte {
  const { width, height } = scene
  if (picked.length === 0) return { width, height, data: new Uint8Array(width * height) }
  const key = distanceKey(scene, sample, picked),
    coverage = paletteCoverage(spread, softness)
  const known = context.memory.get<Uint8Array>(key)
  if (known) return { width, height, data: mapped(known, coverage) }
  const { matte, distance } = measure(scene.picture(sample), picked, coverage, context.check)
  context.memory.set(key, distance, distance.byteLength)
  return { width, height, data: matte }
}

/** The share of the picture at each distance from the nearest colour, in halves of a CIELAB unit; undefined until the palette has been looked for. */
export function paletteHistogram(
  scene: Scene,
  picked: PaletteFields['colours'],
  sample: Sample,
  { memory }: Context,
): number[] | undefined {
  const distance = memory.get<Uint8Array>(distanceKey(scene, sample, picked))
  if (!distance) return undefined
  const counts = new Uint32Array(256)
  for (let i = 0; i < distance.length; i++) counts[distance[i]]++
  return Array.from(counts.subarray(0, MOST_STEPS + 1), (count) => count / distance.length)
}

const distanceKey = (scene: Scene, sample: Sample, picked: PaletteFields['colours']) =>
  `palette ${scene.identity(sample)} ${JSON.stringify(picked)}`

export const palette: Finder<'palette', PaletteFields> = {
  ...paletteStep,
  find: (scene, params, context) => paletteMatte(scene, params, params.sample, context),
}
