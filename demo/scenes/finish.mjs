// Turns 16-bit renders into photographs: sensor grain in linear light (shot noise grows with the light, read noise does not), then JPEG.
// Usage: node demo/scenes/finish.mjs RENDERS  (called by render). Writes demo/pictures, skies and tests/fixtures, of what was rendered.
import { existsSync, mkdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import sharp from 'sharp'

const here = dirname(fileURLToPath(import.meta.url))
const pictures = join(here, '../pictures'),
  skies = join(here, '../../skies'),
  fixtures = join(here, '../../tests/fixtures')
const renders = process.argv[2]
const toLinear = (v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
const fromLinear = (v) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)

/** Seeded, so that a picture comes out the same each time (mulberry32). */
function random(seed) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

async function photograph(name, out, { width, seed, shot, read, quality, folder = pictures }) {
  if (!existsSync(join(renders, `${name}.png`))) return
  const source = sharp(join(renders, `${name}.png`)).removeAlpha()
  const { data, info } = await (width ? source.resize(width, null, { kernel: 'lanczos3' }) : source)
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true })
  const samples = new Uint16Array(data.buffer, data.byteOffset, data.length / 2)
  const linear = Float32Array.from({ length: 65536 }, (_, v) => toLinear(v / 65535))
  const next = random(seed)
  const bytes = Buffer.alloc(samples.length)
  for (let i = 0; i < samples.length; i++) {
    const light = linear[samples[i]]
    const noise = (next() + next() + next() + next() - 2) * Math.sqrt(3) // near-normal, variance 1
    bytes[i] = Math.max(
      0,
      Math.min(255, Math.round(255 * fromLinear(Math.max(0, light + noise * Math.sqrt(shot * light + read * read))))),
    )
  }
  await sharp(bytes, { raw: { width: info.width, height: info.height, channels: 3 } })
    .jpeg({ quality, chromaSubsampling: '4:4:4', mozjpeg: true })
    .toFile(join(folder, out))
}

/** The exact coverage, as an 8-bit grey PNG (the render is linear: white is 1). */
const matte = async (name, out, width) =>
  existsSync(join(renders, `${name}.png`)) &&
  (width
    ? sharp(join(renders, `${name}.png`)).resize(width, null, { kernel: 'lanczos3' })
    : sharp(join(renders, `${name}.png`))
  )
    .toColourspace('b-w')
    .extractChannel(0)
    .png({ compressionLevel: 9 })
    .toFile(join(fixtures, out))

mkdirSync(pictures, { recursive: true })
mkdirSync(fixtures, { recursive: true })
await photograph('puppet', 'otter-puppet.jpg', { seed: 1, shot: 0.00016, read: 0.0009, quality: 92 })
await photograph('puppet', 'otter-puppet-24mp.jpg', { width: 6000, seed: 2, shot: 0.00005, read: 0.0005, quality: 84 })
await photograph('stage', 'puppet-stage.jpg', { seed: 3, shot: 0.00022, read: 0.001, quality: 90 })
await photograph('quay', 'lantern-quay.jpg', { seed: 4, shot: 0.0002, read: 0.001, quality: 90 })
await photograph('sky-amber', 'sky-amber.jpg', { seed: 5, shot: 0.0001, read: 0.0006, quality: 90 })
await photograph('sky-morning', 'sky-morning.jpg', { seed: 6, shot: 0.0001, read: 0.0006, quality: 90 })
// In the order of their numbers in skies.pov.
for (const [i, { file }] of JSON.parse(readFileSync(join(skies, 'pictures.json'), 'utf8')).entries())
  await photograph(`skies-${i + 1}`, file, { seed: 20 + i, shot: 0.00006, read: 0.0004, quality: 82, folder: skies })
await matte('puppet-matte', 'otter-puppet-matte.png')
await matte('quay-matte', 'lantern-quay-sky-matte.png')
