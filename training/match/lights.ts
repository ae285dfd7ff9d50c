/**
 * From which side light falls, on places whose sun is known (training/scenes/places.py): of how many with a sun at a side it is told, and rightly; and how
 * often a side is told where the sun is ahead or behind. Usage: training/match/run lights FOLDER ...
 */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { lightSideOf } from '@/core/match/lightSide'
import { sideOf } from '@/core/match/toldSide'
import { type Matte } from '@/core/raster/picture'
import { read } from './measuring'

/** The sun is at a side where its direction has at least so much across. */
const ASIDE = 0.35
const radians = (degrees: number) => (degrees * Math.PI) / 180

let aside = 0,
  sign = 0,
  told = 0,
  right = 0,
  ahead = 0,
  toldAhead = 0
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    let sun: { azimuth: number; elevation: number } | undefined
    try {
      sun = (JSON.parse(readFileSync(join(folder, name, 'meta.json'), 'utf8')) as { photo: { sun?: typeof sun } }).photo
        .sun
    } catch {
      continue
    }
    if (!sun) continue
    const photo = await read(join(folder, name, 'photo.jpg')),
      { data } = await read(join(folder, name, 'alpha.png')),
      sky: Matte = { ...photo, data: Uint8Array.from({ length: data.length / 4 }, (_, i) => data[4 * i]) },
      value = lightSideOf(photo, sky),
      side = sideOf(value),
      across = Math.sin(radians(sun.azimuth)) * Math.cos(radians(sun.elevation))
    if (Math.abs(across) < ASIDE) {
      ahead++
      if (side) toldAhead++
      continue
    }
    aside++
    if (Math.sign(value ?? 0) === Math.sign(across)) sign++
    if (side) told++
    if (side && (side === 'right') === across > 0) right++
  }
console.log(
  `sun at a side: told of ${told} of ${aside}, right of ${right}; by the sign alone right of ${sign}. Sun ahead or behind: a side told of ${toldAhead} of ${ahead}`,
)
