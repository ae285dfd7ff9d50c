/** Costly results on their way to the server and back: mattes as grey PNG. */
import { type Matte } from '@/core/raster/picture'

const SIGNATURE = 8,
  /** Length and type before, checksum after. */ CHUNK_HEAD = 8,
  CHUNK_REST = 12

export async function pngOfMatte({ width, height, data }: Matte): Promise<Uint8Array<ArrayBuffer>> {
  const { encode } = await import('fast-png')
  return encode(
    { width, height, data: data.slice(), depth: 8, channels: 1 },
    { zlib: { level: 3 } },
  ) as Uint8Array<ArrayBuffer>
}

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
  const stream = new Blob(parts).stream().pipeThrough(new DecompressionStream('deflate')),
    rows = new Uint8Array(await new Response(stream).arrayBuffer())
  if (rows.length !== height * (width + 1)) return null
  const matte = sharedMatte(width, height)
  for (let y = 0; y < height; y++) {
    const at = y * (width + 1)
    if (rows[at] !== 0) return null // a filtered row
    matte.data.set(rows.subarray(at + 1, at + 1 + width), y * width)
  }
  return matte
}
