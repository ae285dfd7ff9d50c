/**
 * How well water is found on ray-traced places (training/scenes/places.py): intersection over union where there is some, what looks like water where there
 * is none. Usage: training/match/run water FOLDER ...
 */
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { overlap } from '@/core/matting/errors'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { parseStep } from '@/core/formats/recipe'
import { waterOf } from '@/engine/newSky'
import { greyOf, mean, read } from './measuring'

const found: number[] = [],
  missed: string[] = [],
  taken: string[] = []
let dry = 0
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder).sort()) {
    const place = join(folder, name)
    if (!existsSync(join(place, 'photo.jpg'))) continue
    const photo = await read(join(place, 'photo.jpg')),
      scene = sceneOf(photo, name),
      context = plainContext(),
      seen = waterOf(scene, context).is === 'sure'
    if (existsSync(join(place, 'water.png'))) {
      const truth = greyOf(await read(join(place, 'water.png')))
      found.push(overlap(foldSteps([parseStep({ kind: 'water' })], scene, context), truth))
      if (!seen) missed.push(name)
    } else {
      dry++
      if (seen) taken.push(name)
    }
  }
const sorted = found.toSorted((a, b) => a - b)
console.log(
  `water of ${found.length} places: overlap ${mean(found).toFixed(3)}, worst tenth ${mean(sorted.slice(0, Math.max(1, Math.floor(found.length / 10)))).toFixed(3)}, not seen in ${missed.length} (${missed.join(' ')}); seen in ${taken.length} of ${dry} without (${taken.join(' ')})`,
)
