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
  const nearest = nearestTable(palette, check)
  for (let i = 0; i < pixels.length; i++) {
    const word = pixels[i]
    out[i] = word >>> 24 === 0 ? 255 : nearest[((word & 255) >> DROPPED) | (((word >> (8 + DROPPED)) & (LEVELS - 1)) << BITS) | (((word >> (16 + DROPPED)) & (LEVELS - 1)) << (2 * BITS))]
  }
  return out
}

/** The distance for every colour of a grid: pictures have more pixels than it has cells. */
function nearestTable(palette: PaletteFields['colours'], check: (progress: number) => void): Uint8Array {
  const table = new Uint8Array(LEVELS ** 3).fill(255)
  const middle = (level: number) => (level << DROPPED) | (1 << (DROPPED - 1))
  palette.forEach(([red, green, blue], n) => {
    const difference = labDifferenceTo(labOf(red, green, blue))
    check((0.5 * n) / palette.length)
    for (let b = 0, i = 0; b < LEVELS; b++) for (let g = 0; g < LEVELS; g++) for (let r = 0; r < LEVELS; r++, i++) {
      const distance = difference(middle(r) | (middle(g) << 8) | (middle(b) << 16)) * STEPS_PER_UNIT + 0.5
      if (distance < table[i]) table[i] = distance
    }
  })
  return table
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
