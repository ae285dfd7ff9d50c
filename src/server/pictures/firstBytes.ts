/**
 * What a picture file is, by its first bytes, and whether a TIFF holds what it says. Sources: the signatures of JPEG (ITU-T T.81 B.1), PNG (W3C
 * PNG 5.2), GIF 89a, RIFF/WebP (RFC 9649), ISOBMFF brands of AVIF (AV1 Image File Format 6.2), and TIFF 6.0 section 2.
 */
import { open } from 'node:fs/promises'

export type PictureKind = 'jpeg' | 'png' | 'gif' | 'webp' | 'tiff' | 'heif'

interface Bytes {
  readonly size: number
  /** Fewer where the file ends. */
  readonly read: (at: number, length: number) => Promise<Buffer>
}
async function withBytes<T>(input: string | Buffer, look: (bytes: Bytes) => Promise<T>): Promise<T> {
  if (typeof input !== 'string')
    return look({ size: input.length, read: async (at, length) => input.subarray(at, at + length) })
  const file = await open(input)
  try {
    const { size } = await file.stat()
    return await look({
      size,
      read: async (at, length) => {
        const { bytesRead, buffer } = await file.read(Buffer.alloc(Math.max(0, Math.min(length, size - at))), {
          position: at,
        })
        return buffer.subarray(0, bytesRead)
      },
    })
  } finally {
    await file.close()
  }
}

/** Null for every other kind of file. */
export const kindOf = (input: string | Buffer): Promise<PictureKind | null> =>
  withBytes(input, async ({ read }) => {
    const head = await read(0, 64),
      text = head.toString('latin1')
    if (text.startsWith('\xff\xd8\xff')) return 'jpeg'
    if (text.startsWith('\x89PNG\r\n\x1a\n')) return 'png'
    if (/^GIF8[79]a/.test(text)) return 'gif'
    if (/^RIFF[^]{4}WEBP/.test(text)) return 'webp'
    if (/^(II\x2a\0|MM\0\x2a|II\x2b\0|MM\0\x2b)/.test(text)) return 'tiff'
    if (/^[^]{4}ftyp/.test(text) && /avi[fs]|mif1|msf1/.test(text.slice(8, 48))) return 'heif'
    return null
  })

const STRIP_OFFSETS = 273,
  STRIP_BYTES = 279,
  TILE_OFFSETS = 324,
  TILE_BYTES = 325
const MOST_ENTRIES = 4096,
  MOST_PIECES = 4_000_000
/** Bytes of a value by its type. */
const TYPE_BYTES: Record<number, number> = { 3: 2, 4: 4, 13: 4, 16: 8, 18: 8 }

/** True when all strips or tiles of the first picture lie within the file. */
export const tiffIsWhole = (input: string | Buffer): Promise<boolean> =>
  withBytes(input, async ({ size, read }) => {
    const head = await read(0, 16)
    if (head.length < 8) return false
    const little = head[0] === 0x49,
      number = (bytes: Buffer, at: number, length: number): number => {
        if (length === 8) return Number(little ? bytes.readBigUInt64LE(at) : bytes.readBigUInt64BE(at))
        return little ? bytes.readUIntLE(at, length) : bytes.readUIntBE(at, length)
      }
    const big = number(head, 2, 2) === 43
    if (big && head.length < 16) return false
    const [countBytes, entryBytes, placeBytes] = big ? [8, 20, 8] : [2, 12, 4]
    const directory = big ? number(head, 8, 8) : number(head, 4, 4)
    const counted = await read(directory, countBytes)
    if (counted.length < countBytes) return false
    const count = number(counted, 0, countBytes)
    if (count < 1 || count > MOST_ENTRIES) return false
    const entries = await read(directory + countBytes, count * entryBytes)
    if (entries.length < count * entryBytes) return false
    const values = async (tag: number): Promise<number[] | null> => {
      for (let i = 0; i < count; i++) {
        const at = i * entryBytes
        if (number(entries, at, 2) !== tag) continue
        const width = TYPE_BYTES[number(entries, at + 2, 2)],
          many = number(entries, at + 4, placeBytes)
        if (!width || many > MOST_PIECES) return null
        const place = at + 4 + placeBytes,
          bytes =
            many * width <= placeBytes
              ? entries.subarray(place, place + many * width)
              : await read(number(entries, place, placeBytes), many * width)
        if (bytes.length < many * width) return null
        return Array.from({ length: many }, (_, k) => number(bytes, k * width, width))
      }
      return []
    }
    const [strips, stripBytes, tiles, tileBytes] = await Promise.all(
      [STRIP_OFFSETS, STRIP_BYTES, TILE_OFFSETS, TILE_BYTES].map(values),
    )
    if (!strips || !stripBytes || !tiles || !tileBytes) return false
    const within = (offsets: number[], lengths: number[]) =>
      lengths.length === offsets.length && offsets.every((at, i) => at + lengths[i] <= size)
    return strips.length + tiles.length > 0 && within(strips, stripBytes) && within(tiles, tileBytes)
  })
