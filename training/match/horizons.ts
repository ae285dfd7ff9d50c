/**
 * How far off the horizon is told, as a share of the picture's height, on places and scenes whose horizon is known (training/scenes/places.py), the sky as
 * the finder finds it: by the skyline alone, by the network alone, and by both. Usage: training/match/run horizons FOLDER ...
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseStep } from '@/core/formats/recipe'
import { horizonOf, rowOf } from '@/core/match/horizon'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { belowHorizon } from '@/engine/newSky'
import { horizonsOff, read } from './measuring'

const off: Record<'skyline' | 'network' | 'both', number[]> = { skyline: [], network: [], both: [] }
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    const place = join(folder, name)
    if (!existsSync(join(place, 'meta.json'))) continue
    const { horizonY } = JSON.parse(readFileSync(join(place, 'meta.json'), 'utf8')) as { horizonY?: number }
    if (horizonY === undefined) continue
    for (const view of readdirSync(place).filter((file) => /^(photo|truth\d)\.jpg$/.test(file))) {
      const scene = sceneOf(await read(join(place, view))),
        sky = foldSteps([parseStep({ kind: 'sky' })], scene, plainContext()),
        below = belowHorizon(scene, plainContext())!,
        offBy = (y: number | undefined) => (y === undefined ? 1 : Math.abs(y - horizonY) / sky.height)
      off.skyline.push(offBy(horizonOf(sky)?.y))
      off.network.push(offBy((rowOf(below) * sky.height) / below.height))
      off.both.push(offBy(horizonOf(sky, below)?.y))
    }
  }
for (const [by, each] of Object.entries(off)) console.log(by.padEnd(8), horizonsOff(each))
