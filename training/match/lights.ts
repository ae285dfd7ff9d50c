/**
 * From which side light falls, on places whose sun is known (training/scenes/places.py): of how many with a sun at a side it is told, and rightly; and how
 * often a side is told where the sun is ahead or behind. Usage: training/match/run lights FOLDER ...
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { lightSideOf } from '@/core/match/lightSide'
import { sideOf } from '@/core/match/toldSide'
import { greyOf, read } from './measuring'

/** The sun is at a side where its direction has at least so much across. */
const ASIDE = 0.35
interface Meta {
  readonly photo: { readonly sun?: { readonly azimuth: number; readonly elevation: number } }
}
const radians = (degrees: number) => (degrees * Math.PI) / 180

let aside = 0,
  sign = 0,
  told = 0,
  right = 0,
  ahead = 0,
  toldAhead = 0
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    const place = join(folder, name)
    if (!existsSync(join(place, 'photo.jpg'))) continue
    const { sun } = (JSON.parse(readFileSync(join(place, 'meta.json'), 'utf8')) as Meta).photo
    if (!sun) continue
    const value = lightSideOf(await read(join(place, 'photo.jpg')), greyOf(await read(join(place, 'alpha.png')))),
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
