import sharp from 'sharp'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
const pic = async (f: string) => { const { data, info } = await sharp(f).toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true }); return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) } }
const grey = async (f: string) => { const { data, info } = await sharp(f).toColourspace('b-w').extractChannel(0).raw().toBuffer({ resolveWithObject: true }); return { width: info.width, height: info.height, data: new Uint8Array(data) } }
const dirs = process.argv.slice(2)
const ways: Record<string, object[]> = { none: [{ kind: 'invert' }] }
for (const reach of [2, 4, 6, 10]) for (const follow of [true, false]) ways[`inv ${reach} ${follow}`] = [{ kind: 'invert' }, { kind: 'edge', reach, follow }]
ways['sky 4 false'] = [{ kind: 'edge', reach: 4, follow: false }, { kind: 'invert' }]
ways['inv blend0 4 true'] = []
const sums: Record<string, number[]> = {}
for (const d of dirs) {
  const photo = await pic(`${d}/photo.jpg`), alpha = await grey(`${d}/alpha.png`), context = plainContext(), scene = sceneOf(photo)
  for (const [name, more] of Object.entries(ways)) {
    const first = name.includes('blend0') ? { kind: 'sky', blend: 0 } : { kind: 'sky' }
    const steps = name.includes('blend0') ? [first, { kind: 'invert' }, { kind: 'edge', reach: 4 }] : [first, ...more]
    const t = performance.now(), land = foldSteps(steps.map((s) => parseStep(s)), scene, context)
    let sad = 0, lost = 0, thin = 0
    for (let i = 0; i < alpha.data.length; i++) { const e = Math.abs(255 - land.data[i] - alpha.data[i]) / 255; sad += e; if (alpha.data[i] > 5 && alpha.data[i] < 250) { thin++; lost += e } }
    ;(sums[name] ??= []).push((100 * sad) / alpha.data.length, (100 * lost) / Math.max(1, thin))
    console.log(d.split('/').at(-1), name, 'mean error %', ((100 * sad) / alpha.data.length).toFixed(3), 'at the boundary %', ((100 * lost) / thin).toFixed(1), Math.round(performance.now() - t), 'ms')
  }
}
for (const [n, v] of Object.entries(sums)) console.log(n.padEnd(20), (v.filter((_, i) => i % 2 === 0).reduce((a, b) => a + b) / v.length * 2).toFixed(3), (v.filter((_, i) => i % 2).reduce((a, b) => a + b) / v.length * 2).toFixed(2))
