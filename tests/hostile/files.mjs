/** Files that are not what they seem, drawn at random. */
import { crc32, deflateSync } from 'node:zlib'
import sharp from 'sharp'

export async function goodFiles() {
  const photo = sharp({
    create: {
      width: 640,
      height: 420,
      channels: 3,
      background: '#507090',
      noise: { type: 'gaussian', mean: 120, sigma: 30 },
    },
  })
  const soft = photo.clone().ensureAlpha(0.5)
  return {
    jpg: await photo.clone().jpeg().toBuffer(),
    'turned.jpg': await photo.clone().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
    'print.jpg': await photo.clone().toColourspace('cmyk').jpeg().toBuffer(),
    png: await photo.clone().png().toBuffer(),
    'soft.png': await soft.clone().png().toBuffer(),
    'palette.png': await photo.clone().png({ palette: true }).toBuffer(),
    'deep.png': await photo.clone().toColourspace('rgb16').png().toBuffer(),
    webp: await soft.clone().webp().toBuffer(),
    tif: await photo.clone().tiff({ compression: 'lzw' }).toBuffer(),
    'plain.tif': await photo.clone().tiff({ compression: 'none' }).toBuffer(),
    'tiled.tif': await photo.clone().tiff({ tile: true, compression: 'deflate' }).toBuffer(),
    gif: await photo.clone().gif().toBuffer(),
    avif: await photo.clone().resize(160).avif({ effort: 0 }).toBuffer(),
  }
}
function pngChunk(type, data) {
  const body = Buffer.concat([Buffer.from(type), data]),
    out = Buffer.alloc(8 + body.length)
  out.writeUInt32BE(data.length)
  body.copy(out, 4)
  out.writeUInt32BE(crc32 ? crc32(body) : crcOf(body), 4 + body.length)
  return out
}
function crcOf(data) {
  let c = 0xffffffff
  for (const byte of data) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}
/** A PNG that says what it likes about its size, over few bytes. */
function claimingPng(width, height, colour = 0) {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width)
  header.writeUInt32BE(height, 4)
  header[8] = 8
  header[9] = colour
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    pngChunk('IHDR', header),
    pngChunk('IDAT', deflateSync(Buffer.alloc(Math.min(4e6, (width + 1) * height)))),
    pngChunk('IEND', Buffer.alloc(0)),
  ])
}

/** @returns [name, bytes] */
export function drawFile(random, good) {
  const names = Object.keys(good),
    name = random.one(names),
    whole = good[name]
  const cut = () => whole.subarray(0, random.whole(1, whole.length))
  const flipped = () => {
    const out = Buffer.from(whole)
    for (let i = random.whole(1, 40); i > 0; i--) out[random.whole(0, out.length)] = random.whole(0, 256)
    return out
  }
  const patched = () => {
    // Sizes in headers, made huge: JPEG SOF, TIFF tags, GIF screen, WebP canvas.
    const out = Buffer.from(whole)
    if (name.endsWith('jpg')) {
      const sof = out.indexOf(Buffer.from([0xff, 0xc0]))
      if (sof > 0) out.writeUInt32BE(random.one([0xffffffff, 0x75307530, 0]), sof + 5)
    } else if (name.endsWith('tif')) {
      const directory = out.readUInt32LE(4)
      for (let i = 0; i < out.readUInt16LE(directory); i++) {
        const entry = directory + 2 + i * 12
        if ([256, 257, 273, 278, 279, 322, 323, 324, 325].includes(out.readUInt16LE(entry)) && random.chance(0.5))
          out.writeUInt32LE(random.one([0, 20_000, 0x7fffffff, 0xffffffff]), entry + 8)
      }
    } else for (let i = 6; i < 40; i++) if (random.chance(0.3)) out[i] = 255
    return out
  }
  const texts = [
    '<svg xmlns="http://www.w3.org/2000/svg" width="9000" height="9000"><image href="file:///etc/passwd"/></svg>',
    '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "bbbbbbbbbb">]><svg>&b;</svg>',
    '%PDF-1.7\n1 0 obj<<>>endobj',
    '<html><script>alert(1)</script></html>',
    'P6 99999 99999 255\n',
    '#!/bin/sh\necho no\n',
    'PK\x03\x04',
    '',
  ]
  return random.one([
    () => [name, cut()],
    () => [name, cut()],
    () => [name, flipped()],
    () => [name, flipped()],
    () => [name, patched()],
    () => [
      `claims.${random.one(['png', 'jpg', 'tif'])}`,
      claimingPng(random.one([1, 30_000, 65_535, 0x7fffffff]), random.one([1, 30_000, 65_535])),
    ],
    () => ['heavy.png', claimingPng(11_000, 11_000)],
    () => [random.one(['drawing.svg', 'photo.jpg', 'x.png']), Buffer.from(random.one(texts))],
    () => [
      name,
      Buffer.concat([
        whole.subarray(0, random.whole(8, 64)),
        Buffer.from(Array.from({ length: 5000 }, () => random.whole(0, 256))),
      ]),
    ],
    () => [random.one(names), whole],
    () => [random.one(['../../etc/passwd', 'a'.repeat(5000), '\u0000.png', '%', '\ud800.png', '\u202egnp.exe']), whole],
    () => ['after.jpg', Buffer.concat([whole, Buffer.alloc(200_000, 1)])],
  ])()
}
