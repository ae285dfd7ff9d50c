import sharp from 'sharp'
import { readFileSync, readdirSync, existsSync } from 'node:fs'
import { grainOf } from '@/core/match/grain'
import { edgeBlurOf } from '@/core/match/edgeBlur'
const pic = async (f: string) => { const { data, info } = await sharp(f).toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true }); return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) } }
const grey = async (f: string) => { const { data, info } = await sharp(f).toColourspace('b-w').extractChannel(0).raw().toBuffer({ resolveWithObject: true }); return { width: info.width, height: info.height, data: new Uint8Array(data) } }
const dir = process.argv[2]
const r: number[] = [], b: number[] = []
for (const d of readdirSync(dir)) {
  if (!existsSync(`${dir}/${d}/meta.json`)) continue
  const meta = JSON.parse(readFileSync(`${dir}/${d}/meta.json`, 'utf8'))
  const photo = await pic(`${dir}/${d}/photo.jpg`), alpha = await grey(`${dir}/${d}/alpha.png`)
  const t = performance.now(), g = grainOf(photo), t1 = performance.now(), e = edgeBlurOf(photo, alpha), t2 = performance.now()
  console.log(d, 'grain', meta.grain, g?.deviation.toFixed(2), g?.byTone.map((x) => x.deviation.toFixed(2)).join(' '), 'blur', meta.blur, e?.toFixed(2), Math.round(t1 - t), Math.round(t2 - t1))
  if (g && meta.grain) r.push(g.deviation / meta.grain)
  if (e !== null && meta.blur !== undefined) b.push(e - meta.blur)
}
console.log('ratio', r.map((x) => x.toFixed(2)).join(' '), 'blur off', b.map((x) => x.toFixed(2)).join(' '))
