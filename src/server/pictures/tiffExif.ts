/**
 * EXIF in a TIFF file, which libvips leaves out: the directories it makes of it for a JPEG are laid behind the file, the picture's own among
 * them, and the header points to that. Source: TIFF 6.0, section 2 (header, directories), and CIPA DC-008 (Exif 2.32), 4.6.3 (pointer to the exposure's).
 */
import { open } from 'node:fs/promises'
import sharp from 'sharp'
import { type ExifBlocks } from './exif'

interface Entry {
  readonly tag: number
  readonly type: number
  readonly count: number
  /** Its values, little-endian; up to four bytes lie in the entry itself. */
  readonly bytes: Buffer
}
/** Bytes of a value by type, from 1 (BYTE) to 12 (DOUBLE). */
const BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8]
const ENTRY = 12,
  EXPOSURE = 0x8769,
  LONG = 4
/** ImageDescription, Make, Model, Artist, Copyright. */
const OF_THE_PICTURE = new Set([0x010e, 0x010f, 0x0110, 0x013b, 0x8298])
/** What libexif says of the picture that it was made for: the components' order, the colour space, width and height. */
const OF_ANOTHER = new Set([0x9101, 0xa001, 0xa002, 0xa003])

/** @param file a little-endian TIFF of up to 4 GB, as libvips writes them */
export async function addExif(file: string, exif: ExifBlocks): Promise<void> {
  const tags = await directoriesOf(exif),
    handle = await open(file, 'r+')
  try {
    const read = async (at: number, length: number) => (await handle.read(Buffer.alloc(length), 0, length, at)).buffer
    const header = await read(0, 8)
    if (header.toString('latin1', 0, 2) !== 'II' || header.readUInt16LE(2) !== 42)
      throw new Error('EXIF can only be added to a little-endian TIFF.')
    const first = header.readUInt32LE(4),
      count = (await read(first, 2)).readUInt16LE(0),
      own = await read(first, 2 + count * ENTRY + 4)
    // A directory begins at an even place.
    const { size } = await handle.stat(),
      begin = size + (size % 2),
      exposure = directory(tags.exposure, begin),
      at = begin + exposure.length,
      kept = Array.from({ length: count }, (_, i) => own.subarray(2 + i * ENTRY, 2 + (i + 1) * ENTRY)),
      pointer = { tag: EXPOSURE, type: LONG, count: 1, bytes: uint32(begin) }
    await handle.write(exposure, 0, exposure.length, begin)
    const merged = directory([...tags.picture, pointer], at, kept, own.readUInt32LE(2 + count * ENTRY))
    await handle.write(merged, 0, merged.length, at)
    await handle.write(uint32(at), 0, 4, 4)
  } finally {
    await handle.close()
  }
}

/** The two directories as libexif makes them. */
async function directoriesOf(exif: ExifBlocks): Promise<{ picture: Entry[]; exposure: Entry[] }> {
  const dot = sharp({ create: { width: 1, height: 1, channels: 3, background: '#000000' } }),
    { exif: made } = await sharp(await dot.withExif(exif).jpeg().toBuffer()).metadata(),
    block = made!.subarray('Exif\0\0'.length),
    picture = entriesOf(block, block.readUInt32LE(4)),
    pointer = picture.find(({ tag }) => tag === EXPOSURE)
  return {
    picture: picture.filter(({ tag }) => OF_THE_PICTURE.has(tag)),
    exposure: pointer ? entriesOf(block, pointer.bytes.readUInt32LE(0)).filter(({ tag }) => !OF_ANOTHER.has(tag)) : [],
  }
}

function entriesOf(block: Buffer, at: number): Entry[] {
  return Array.from({ length: block.readUInt16LE(at) }, (_, i) => {
    const entry = at + 2 + i * ENTRY,
      type = block.readUInt16LE(entry + 2),
      count = block.readUInt32LE(entry + 4),
      length = BYTES[type] * count,
      from = length <= 4 ? entry + 8 : block.readUInt32LE(entry + 8)
    return { tag: block.readUInt16LE(entry), type, count, bytes: block.subarray(from, from + length) }
  })
}

/** A directory that will lie at `at`, with its values behind it. @param kept entries of the same file, as they are @param next the directory after it, 0 for none */
function directory(entries: readonly Entry[], at: number, kept: readonly Buffer[] = [], next = 0): Buffer {
  const values: Buffer[] = []
  let behind = at + 2 + (entries.length + kept.length) * ENTRY + 4
  const written = entries.map(({ tag, type, count, bytes }) => {
    const entry = Buffer.alloc(ENTRY)
    entry.writeUInt16LE(tag, 0)
    entry.writeUInt16LE(type, 2)
    entry.writeUInt32LE(count, 4)
    if (bytes.length <= 4) bytes.copy(entry, 8)
    else {
      entry.writeUInt32LE(behind, 8)
      const even = Buffer.concat([bytes, Buffer.alloc(bytes.length % 2)])
      values.push(even)
      behind += even.length
    }
    return entry
  })
  const all = [...kept, ...written].sort((a, b) => a.readUInt16LE(0) - b.readUInt16LE(0)),
    head = Buffer.alloc(2)
  head.writeUInt16LE(all.length, 0)
  return Buffer.concat([head, ...all, uint32(next), ...values])
}

function uint32(value: number): Buffer {
  const bytes = Buffer.alloc(4)
  bytes.writeUInt32LE(value, 0)
  return bytes
}
