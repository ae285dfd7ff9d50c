import sharp from 'sharp'
import { readFileSync, readdirSync, existsSync } from 'node:fs'
import { horizonOf } from '@/core/match/horizon'
const grey = async (f: string) => { const { data, info } = await sharp(f).toColourspace('b-w').extractChannel(0).raw().toBuffer({ resolveWithObject: true }); return { width: info.width, height: info.height, data: new Uint8Array(data) } }
const off: number[] = []
for (const dir of process.argv.slice(2)) for (const d of readdirSync(dir)) {
  if (!existsSync(`${dir}/${d}/meta.json`)) continue
  const meta = JSON.parse(readFileSync(`${dir}/${d}/meta.json`, 'utf8')), alpha = await grey(`${dir}/${d}/alpha.png`)
  const h = horizonOf(alpha)!
  off.push((h.y - meta.horizonY) / alpha.height)
  console.log(d, ((h.y - meta.horizonY) / alpha.height).toFixed(3), h.tilt.toFixed(2), meta.tilt, h.seen)
}
console.log(off.filter((x) => Math.abs(x) < 0.015).length, off.length)
