/**
 * How far off the horizon is told, as a share of the picture's height, on places and scenes whose horizon is known (training/scenes/places.py), the sky as
 * the finder finds it. Usage: training/match/run horizons FOLDER ...
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseStep } from '@/core/formats/recipe'
import { horizonOf } from '@/core/match/horizon'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { horizonsOff, read } from './measuring'

const off: number[] = []
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    const place = join(folder, name)
    if (!existsSync(join(place, 'meta.json'))) continue
    const { horizonY } = JSON.parse(readFileSync(join(place, 'meta.json'), 'utf8')) as { horizonY?: number }
    if (horizonY === undefined) continue
    for (const view of readdirSync(place).filter((file) => /^(photo|truth\d)\.jpg$/.test(file))) {
      const sky = foldSteps([parseStep({ kind: 'sky' })], sceneOf(await read(join(place, view))), plainContext()),
        found = horizonOf(sky)
      off.push(found ? Math.abs(found.y - horizonY) / sky.height : 1)
    }
  }
console.log(horizonsOff(off))
