/** Palette: soft coverage by how near a pixel's colour is to the nearest of several picked ones. */
import { labOf, labDifferenceTo } from '../colour/lab'
import { type Matte, type Picture, words } from '../raster/picture'
import { colours, type Fields, number } from './fields'
import { type Context, type Finder, type Sample, type Scene } from './finder'

export interface PaletteFields {
  /** Picked colours, red, green and blue 0-255 each. None finds nothing. */
  colours: readonly (readonly [number, number, number])[]
  /** How far a colour may differ, CIELAB units (CIE76). */
  spread: number
  /** 0: all or nothing at the spread; 1: fading from the colour itself to twice the spread. */
  softness: number
}

/** Distances are counted in halves of a CIELAB unit, up to 255 of them. */
export const STEPS_PER_UNIT = 2
/** Bits kept of each channel in the table: a step of it is about one CIELAB unit. */
const BITS = 7, LEVELS = 1 << BITS, DROPPED = 8 - BITS

/** For each pixel the distance to the nearest colour, in halves of a CIELAB unit, at most 255 (127.5 units). */
export function paletteDistance(picture: Picture, palette: PaletteFields['colours'], check: (progress: number) => void = () => {}): Uint8Array {
  const pixels = words(picture)
  const out = new Uint8Array(pixels.length)
  const differences = palette.map(([red, green, blue]) => labDifferenceTo(labOf(red, green, blue)))
  // Cells are filled as the picture needs them: it has far fewer colours than the grid has cells.
  const table = new Uint8Array(LEVELS ** 3).fill(UNKNOWN)
  for (let from = 0; from < pixels.length; from += SLICE) {
    check((0.8 * from) / pixels.length)
    lookUp(pixels, out, from, Math.min(pixels.length, from + SLICE), table, differences)
  }
  return out
}

/** Also the greatest distance: so far a colour is simply looked at again. */
const UNKNOWN = 255
const SLICE = 1 << 20
const MASK = ((LEVELS - 1) << DROPPED) & 255

function lookUp(pixels: Uint32Array, out: Uint8Array, from: number, to: number, table: Uint8Array, differences: readonly ((word: number) => number)[]): void {
  for (let i = from; i < to; i++) {
    const word = pixels[i]
    const cell = ((word & MASK) >> DROPPED) | (((word >>> 8) & MASK) << (BITS - DROPPED)) | (((word >>> 16) & MASK) << (2 * BITS - DROPPED))
    let distance = table[cell]
    if (distance === UNKNOWN) table[cell] = distance = nearest(word, differences)
    out[i] = word >>> 24 === 0 ? 255 : distance
  }
}

/** The least distance of a cell's middle colour. */
function nearest(word: number, differences: readonly ((word: number) => number)[]): number {
  const middle = (word & (MASK | (MASK << 8) | (MASK << 16))) | (0x010101 << (DROPPED - 1))
  let least = Infinity
  for (const difference of differences) least = Math.min(least, difference(middle))
  return Math.min(255, Math.round(least * STEPS_PER_UNIT))
}

/** Coverage (0-255) for each distance: full up to spread·(1 − softness), none from spread·(1 + softness), a smooth step between. */
export function paletteCoverage(spread: number, softness: number): Uint8Array {
  const full = spread * (1 - softness), none = Math.min(255 / STEPS_PER_UNIT, spread * (1 + softness))
  return Uint8Array.from({ length: 256 }, (_, step) => {
    const distance = step / STEPS_PER_UNIT
    if (distance <= full) return 255
    if (distance >= none) return 0
    const t = (none - distance) / (none - full)
    return Math.round(255 * t * t * (3 - 2 * t))
  })
}

/** Soft coverage by the nearest of these colours, over the whole picture. */
export function paletteMatte(scene: Scene, { colours: picked, spread, softness }: PaletteFields, sample: Sample, context: Context): Matte {
  const { width, height } = scene
  if (picked.length === 0) return { width, height, data: new Uint8Array(width * height) }
  const key = `palette ${scene.identity(sample)} ${JSON.stringify(picked)}`
  let distance = context.memory.get<Uint8Array>(key)
  if (!distance) { distance = paletteDistance(scene.picture(sample), picked, context.check); context.memory.set(key, distance, distance.byteLength) }
  context.check(0.8)
  const coverage = paletteCoverage(spread, softness)
  const data = new Uint8Array(distance.length)
  for (let i = 0; i < data.length; i++) data[i] = coverage[distance[i]]
  return { width, height, data }
}

export const paletteFields: Fields<PaletteFields> = { colours: colours(64), spread: number(0, 100, 24), softness: number(0, 1, 0.5) }

export const palette: Finder<'palette', PaletteFields> = {
  kind: 'palette',
  finds: true,
  looksAtPixels: true,
  fields: paletteFields,
  find: (scene, params, context) => paletteMatte(scene, params, params.sample, context),
}
