import '@/core/network/withWeights'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import sharp from 'sharp'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { water, waterShare } from '@/core/select/water'
import { stateToMatte } from '@/core/segment/softEdge'
void stateToMatte
async function read(file: string, longest = 1600) {
  const { data, info } = await sharp(file).resize({ width: longest, height: longest, fit: 'inside', withoutEnlargement: true }).toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) }
}
const [mode, where, truth] = process.argv.slice(2)
const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / Math.max(1, v.length)
if (mode === 'photos') {
  const boxes = JSON.parse(readFileSync(truth, 'utf8')) as Record<string, { yes: number[][]; no: number[][] }>
  const files = [...readdirSync(where).map((f) => where + '/' + f), '/usr/share/palapeli/collection/cincinnati-bridge.jpg'].filter((f) => !/erase-10/.test(f) && /details|monuments|erase|animals|cincinnati|music/.test(f))
  const skip = /erase-25|farm_animals-0|monuments-(33|9|38|25)\.|world_animals-(3|9)\.|details-(11|16|20|25|29|35|38|54)\./
  const yes: number[] = [], no: number[] = [], falseShare: number[] = []
  for (const f of files) {
    const name = f.split('/').pop()!.replace(/\.\w+$/, '')
    if (skip.test(f)) continue
    const p = await read(f), scene = sceneOf(p, name), ctx = plainContext()
    const share = waterShare(scene, 'layer', ctx), m = water.find(scene, { sample: 'layer' } as never, ctx)
    await sharp(Buffer.from(m.data), { raw: { width: p.width, height: p.height, channels: 1 } }).png().toFile('/tmp/w/out-' + name + '.png')
    const area = (bs: number[][]) => { let n = 0, s = 0; for (const [x0, y0, x1, y1] of bs) for (let y = Math.ceil(y0 * p.height); y < y1 * p.height - 1; y += 3) for (let x = Math.ceil(x0 * p.width); x < x1 * p.width - 1; x += 3) { n++; s += m.data[y * p.width + x] > 127 ? 1 : 0 } return n ? s / n : NaN }
    if (boxes[name]) { const a = area(boxes[name].yes), b = area(boxes[name].no); yes.push(a); if (b === b) no.push(b); console.log(name.padEnd(26), 'seen', share.toFixed(3), 'water found', a.toFixed(3), 'land taken', b.toFixed(3)) }
    else { falseShare.push(share); if (share >= 0.01) console.log(name.padEnd(26), 'FALSE', share.toFixed(3)) }
  }
  console.log('water found', mean(yes).toFixed(3), 'seen at all', yes.length, 'land taken', mean(no).toFixed(3), '; without water', falseShare.length, 'with >= 1 %', falseShare.filter((s) => s >= 0.01).length, '>= 3 %', falseShare.filter((s) => s >= 0.03).length)
} else {
  const ious: number[] = [], fa: number[] = []
  for (const place of readdirSync(where).sort()) {
    const dir = where + '/' + place, p = await read(dir + '/photo.jpg'), scene = sceneOf(p, place), ctx = plainContext()
    const share = waterShare(scene, 'layer', ctx), m = water.find(scene, { sample: 'layer' } as never, ctx)
    if (!existsSync(dir + '/water.png')) { fa.push(share); if (share > 0.01) console.log(place, 'FALSE', share.toFixed(3)); continue }
    const t = (await read(dir + '/water.png')).data
    let a = 0, o = 0
    for (let i = 0; i < m.data.length; i++) { const x = m.data[i] / 255, y = t[4 * i] / 255; a += Math.min(x, y); o += Math.max(x, y) }
    ious.push(a / o); console.log(place, 'seen', share.toFixed(3), 'iou', (a / o).toFixed(3))
  }
  const s = [...ious].sort((x, y) => x - y)
  console.log('iou', mean(ious).toFixed(3), 'worst tenth', mean(s.slice(0, Math.max(1, Math.round(s.length / 10)))).toFixed(3), 'of', ious.length, '; without', fa.length, 'false', fa.filter((x) => x > 0.01).length)
}
