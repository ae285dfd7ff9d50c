/** Costly results on their way to the server and back: mattes as grey PNG. */
import { type Matte } from '@/core/raster/picture'

const SIGNATURE = 8,
  /** Length and type before, checksum after. */ CHUNK_HEAD = 8,
  CHUNK_REST = 12

/**
 * Every row as it is, deflated by the browser: a fifth of the time a library takes, and the thread answers others meanwhile.
 * Source: PNG specification (W3C, third edition), 5, 11.2 and annex D (the checksum).
 */
export async function pngOfMatte({ width, height, data }: Matte): Promise<Uint8Array<ArrayBuffer>> {
  const rows = new Uint8Array(height * (width + 1)), // the filter's byte, then the row
    head = new DataView(new ArrayBuffer(13))
  for (let y = 0; y < height; y++) rows.set(data.subarray(y * width, (y + 1) * width), y * (width + 1) + 1)
  head.setUint32(0, width)
  head.setUint32(4, height)
  head.setUint8(8, 8)
  const parts = [
    Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
    chunk('IHDR', new Uint8Array(head.buffer)),
    chunk('IDAT', await through(rows, new CompressionStream('deflate'))),
    chunk('IEND', new Uint8Array()),
  ]
  return new Uint8Array(await new Blob(parts).arrayBuffer())
}
async function through(
  bytes: Blob | Uint8Array<ArrayBuffer>,
  by: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await new Response(new Blob([bytes]).stream().pipeThrough(by)).arrayBuffer())
}
function chunk(type: string, content: Uint8Array): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(CHUNK_REST + content.length),
    view = new DataView(out.buffer)
  view.setUint32(0, content.length)
  out.set(new TextEncoder().encode(type), 4)
  out.set(content, CHUNK_HEAD)
  view.setUint32(CHUNK_HEAD + content.length, checksum(out.subarray(4, CHUNK_HEAD + content.length)))
  return out
}
/** CRC-32. */
function checksum(bytes: Uint8Array): number {
  let sum = 0xffffffff
  for (const byte of bytes) sum = CHECKSUMS[(sum ^ byte) & 0xff] ^ (sum >>> 8)
  return ~sum
}
const CHECKSUMS = Int32Array.from({ length: 256 }, (_, byte) => {
  let sum = byte
  for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >>> 1) ^ 0xedb88320 : sum >>> 1
  return sum
})

/** Null where it is no grey picture of 8 bits. */
export async function matteOfPng(file: ArrayBuffer): Promise<Matte | null> {
  const quick = await plainGrey(file).catch(() => null)
  if (quick) return quick
  const { decode } = await import('fast-png'),
    { width, height, data, channels, depth } = decode(file)
  if (channels !== 1 || depth !== 8) return null
  const matte = sharedMatte(width, height)
  matte.data.set(data)
  return matte
}
const sharedMatte = (width: number, height: number): Matte => ({
  width,
  height,
  data: new Uint8Array(new SharedArrayBuffer(width * height)),
})

/** One as `pngOfMatte` makes them, every row as it is, is inflated by the browser: a tenth of the time. Null for others. Source: PNG specification (W3C, third edition), 5, 7.3 and 9. */
async function plainGrey(file: ArrayBuffer): Promise<Matte | null> {
  const view = new DataView(file),
    parts: Uint8Array<ArrayBuffer>[] = []
  let head: DataView | undefined
  for (let at = SIGNATURE; at + CHUNK_REST <= file.byteLength;) {
    const length = view.getUint32(at),
      type = String.fromCharCode(...new Uint8Array(file, at + 4, 4))
    if (type === 'IHDR') head = new DataView(file, at + CHUNK_HEAD, length)
    if (type === 'IDAT') parts.push(new Uint8Array(file, at + CHUNK_HEAD, length))
    at += length + CHUNK_REST
  }
  if (!head) return null
  const width = head.getUint32(0),
    height = head.getUint32(4)
  // Depth, colour type, and neither another compression, filter method nor interlacing.
  if (head.getUint8(8) !== 8 || [9, 10, 11, 12].some((at) => head.getUint8(at) !== 0)) return null
  const rows = await through(new Blob(parts), new DecompressionStream('deflate'))
  if (rows.length !== height * (width + 1)) return null
  const matte = sharedMatte(width, height)
  for (let y = 0; y < height; y++) {
    const at = y * (width + 1)
    if (rows[at] !== 0) return null // a filtered row
    matte.data.set(rows.subarray(at + 1, at + 1 + width), y * width)
  }
  return matte
}
