/**
 * What the finder of skies and the horizon make of photographs (training/photographs.json) whose sky nothing was trained on: how much of the water that was
 * marked by hand is taken for sky, and how far off the horizon is, where it was marked, as a share of the height: by the skyline alone and with the network.
 * Usage: training/match/run photographs
 */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseStep } from '@/core/formats/recipe'
import { type Horizon, horizonOf } from '@/core/match/horizon'
import { type Matte } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { fillPolygons, type Point } from '@/core/vector/fill'
import { belowHorizon } from '@/engine/newSky'
import { horizonsOff, mean, read, worst } from './measuring'

interface Marked {
  readonly water?: readonly string[]
  readonly but?: readonly string[]
}

const {
  folder,
  marked,
  sky: skies,
  skyMeasured,
  horizon: horizons,
} = JSON.parse(readFileSync('training/photographs.json', 'utf8')) as {
  folder: string
  marked: Record<string, Marked>
  sky: Record<string, string | true>
  skyMeasured: Record<string, string | true>
  horizon: Record<string, number>
}
// Every third is kept for measuring: photographs.py.
const trained = new Set(Object.keys(skies).filter((_, n) => n % 3)),
  kept = new Set([...Object.keys(skies), ...Object.keys(skyMeasured)].filter((name) => !trained.has(name)))
const WIDTH = 900,
  LOST = 0.05

/** Outlines given as shares of width and height. */
function area(outlines: readonly string[], { width, height }: Matte): Uint8Array {
  const corner = (text: string): Point => {
    const [x, y] = text.split(',').map(Number)
    return [x * width, y * height]
  }
  return fillPolygons(
    { width, height },
    outlines.map((line) => line.split(' ').map(corner)),
    'nonzero',
  ).data
}

const lost: number[] = [],
  off: Record<'skyline' | 'both', number[]> = { skyline: [], both: [] }
for (const name of new Set([...Object.keys(marked), ...Object.keys(horizons)])) {
  const { water, but } = trained.has(name) ? {} : (marked[name] ?? {}),
    horizon = kept.has(name) ? horizons[name] : undefined
  if (!water && horizon === undefined) continue
  const scene = sceneOf(await read(join(folder, name), WIDTH)),
    sky = foldSteps([parseStep({ kind: 'sky' })], scene, plainContext()),
    said: string[] = []
  if (water) {
    const wet = area(water, sky),
      dry = area(but ?? [], sky)
    let pixels = 0,
      taken = 0
    for (let i = 0; i < wet.length; i++) {
      if (wet[i] < 128 || dry[i] >= 128) continue
      pixels++
      if (sky.data[i] >= 128) taken++
    }
    lost.push(taken / pixels)
    said.push(`water taken for sky ${(100 * lost.at(-1)!).toFixed(1)} %`)
  }
  if (horizon !== undefined) {
    const offBy = (found: Horizon | null) => (found ? Math.abs(found.y / sky.height - horizon) : 1)
    off.skyline.push(offBy(horizonOf(sky)))
    off.both.push(offBy(horizonOf(sky, belowHorizon(scene, plainContext()))))
    said.push(`horizon off by ${(100 * off.both.at(-1)!).toFixed(1)} % (${(100 * off.skyline.at(-1)!).toFixed(1)} %)`)
  }
  console.log(name.padEnd(22), said.join(', '))
}
console.log(
  `${lost.length} with water: mean ${(100 * mean(lost)).toFixed(1)} % taken for sky, worst tenth ${(100 * worst(lost)).toFixed(0)} %, more than ${100 * LOST} % on ${lost.filter((v) => v > LOST).length}`,
)
for (const [by, each] of Object.entries(off)) console.log(by.padEnd(8), horizonsOff(each))
