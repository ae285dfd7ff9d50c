/**
 * How far off the horizon is told, as a share of the picture's height, on places and scenes whose horizon is known (training/scenes/places.py): with the
 * network and without, the sky as the finder finds it. Usage: training/match/run horizons FOLDER ...
 */
import '@/core/network/withWeights'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseStep } from '@/core/formats/recipe'
import { expectedHorizon, horizonOf } from '@/core/match/horizon'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { waterSeen } from '@/core/select/water'
import { mean, read, worst } from './measuring'

const NEAR = 0.015
const off: Record<'network' | 'alone', number[]> = { network: [], alone: [] }
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    const place = join(folder, name)
    if (!existsSync(join(place, 'meta.json'))) continue
    const { horizonY } = JSON.parse(readFileSync(join(place, 'meta.json'), 'utf8')) as { horizonY?: number }
    if (horizonY === undefined) continue
    for (const view of readdirSync(place).filter((file) => /^(photo|truth\d)\.jpg$/.test(file))) {
      const scene = sceneOf(await read(join(place, view))),
        sky = foldSteps([parseStep({ kind: 'sky' })], scene, plainContext()),
        { below } = waterSeen(scene, 'layer', plainContext())
      for (const [by, found] of [
        ['network', horizonOf(sky, below && expectedHorizon(below, sky))],
        ['alone', horizonOf(sky)],
      ] as const)
        off[by].push(found ? Math.abs(found.y - horizonY) / sky.height : 1)
    }
  }
for (const [by, values] of Object.entries(off))
  console.log(
    `${by}: ${values.length} views, median ${percent(values.toSorted((a, b) => a - b)[values.length >> 1])}, mean ${percent(mean(values))}, worst tenth ${percent(worst(values))}, within 1.5 %: ${values.filter((v) => v <= NEAR).length}`,
  )
function percent(share: number): string {
  return `${(100 * share).toFixed(2)} %`
}
