/**
 * How well sky is found on photographs whose sky is known (training/photographs.py --skies). Usage: training/match/run skies FOLDER
 * Of pictures without any what is taken for sky counts as wrong land.
 */
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { greyOf, mean, read, worst } from './measuring'

const WIDTH = 900
/** Fewer right than this is a failure. */
const FAILED = 0.8

const folder = process.argv[2],
  skies: number[] = [],
  lands: number[] = [],
  wholes: number[] = [],
  failed: string[] = []
for (const file of readdirSync(folder).filter((name) => name.endsWith('.jpg'))) {
  const name = file.slice(0, -4),
    found = foldSteps([parseStep({ kind: 'sky' })], sceneOf(await read(join(folder, file), WIDTH)), plainContext()),
    truth = greyOf(await read(join(folder, `${name}.png`)))
  let sky = 0,
    land = 0,
    skyRight = 0,
    landRight = 0
  const { width, height } = found
  for (let i = 0; i < width * height; i++) {
    const x = Math.floor((((i % width) + 0.5) * truth.width) / width),
      y = Math.floor(((Math.floor(i / width) + 0.5) * truth.height) / height),
      said = found.data[i] >= 128
    if (truth.data[y * truth.width + x] >= 128) {
      sky++
      if (said) skyRight++
    } else {
      land++
      if (!said) landRight++
    }
  }
  const whole = (skyRight + landRight) / (sky + land)
  if (sky) skies.push(skyRight / sky)
  lands.push(landRight / land)
  wholes.push(whole)
  if (Math.min(sky ? skyRight / sky : 1, landRight / land) < FAILED) failed.push(name)
  console.log(
    name.padEnd(16),
    sky ? `sky ${(100 * skies.at(-1)!).toFixed(1)} %` : 'no sky',
    `land ${(100 * lands.at(-1)!).toFixed(1)} %`,
  )
}
const told = (values: readonly number[]) =>
  `${(100 * mean(values)).toFixed(1)} (${(100 - 100 * worst(values.map((v) => 1 - v))).toFixed(1)})`
console.log(
  `${wholes.length} photographs, right (worst tenth): sky ${told(skies)}, land ${told(lands)}, all ${told(wholes)} %; under ${100 * FAILED} % of either: ${failed.length} (${failed.join(' ')})`,
)
