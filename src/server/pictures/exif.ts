/**
 * What a photo says of itself and may go along with what is made of it: camera, lens, exposure, time and author, from a list. Everything else stays
 * behind (places, serial numbers, makers' notes, previews). Read by exifr; written by libvips.
 */
import exifr from 'exifr'

/** As libvips takes them: texts by directory and name. */
export type ExifBlocks = Readonly<Record<string, Readonly<Record<string, string>>>>

/** By directory as libvips numbers them: IFD0 the picture, IFD2 the exposure. Source: CIPA DC-008 (Exif 2.32), tables 4 to 8. */
const KEPT = {
  IFD0: ['Make', 'Model', 'Artist', 'Copyright', 'ImageDescription'],
  IFD2: [
    'ExposureTime',
    'FNumber',
    'ISO',
    'DateTimeOriginal',
    'OffsetTimeOriginal',
    'FocalLength',
    'FocalLengthIn35mmFormat',
    'ExposureCompensation',
    'LensMake',
    'LensModel',
  ],
} as const
/** Where the standard's name is another than the reader's. */
const STANDARD: Readonly<Record<string, string>> = {
  ISO: 'ISOSpeedRatings',
  FocalLengthIn35mmFormat: 'FocalLengthIn35mmFilm',
  ExposureCompensation: 'ExposureBiasValue',
}
const RATIONALS = new Set(['ExposureTime', 'FNumber', 'FocalLength', 'ExposureCompensation'])
const LONGEST = 500

/** Undefined where the photo says nothing of this. */
export async function exifOf(file: string): Promise<ExifBlocks | undefined> {
  const found: Record<string, unknown> = await exifr
    .parse(file, { pick: [...KEPT.IFD0, ...KEPT.IFD2], reviveValues: false, translateValues: false })
    .then(
      (tags: Record<string, unknown> | undefined) => tags ?? {},
      () => ({}),
    )
  const blocks: Record<string, Record<string, string>> = {}
  for (const [directory, names] of Object.entries(KEPT))
    for (const name of names) {
      const text = textOf(name, found[name])
      if (text !== undefined) (blocks[directory] ??= {})[STANDARD[name] ?? name] = text
    }
  return Object.keys(blocks).length ? blocks : undefined
}

function textOf(name: string, value: unknown): string | undefined {
  if (typeof value === 'string')
    return (
      value
        .replace(/[\0-\x1f]/g, ' ')
        .slice(0, LONGEST)
        .trim() || undefined
    )
  if (typeof value !== 'number' || !Number.isFinite(value)) return undefined
  if (!RATIONALS.has(name)) return String(Math.round(value))
  return value !== 0 && Math.abs(value) < 1 ? `1/${Math.round(1 / value)}` : `${Math.round(value * 100)}/100`
}
