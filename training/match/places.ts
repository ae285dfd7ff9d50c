/**
 * Two figures on places ray-traced under several skies (training/scenes/places.py). Usage: training/match/run places FOLDER ...
 * Fit: for each view of a place, how many of all other skies rank behind the one it was taken under, and whether that is the first of its place's own.
 * Surroundings: a piece of one half of a view is put into the other half of the same place under another sky; mean CIEDE2000 to how it looks there.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { labOf } from '@/core/colour/lab'
import { composeRegion } from '@/core/compose/composeRegion'
import { fitOf } from '@/core/match/fit'
import { type Measures, measure } from '@/core/match/measure'
import { type SkyPicture } from '@/core/match/skyPicture'
import { matchLayer } from '@/core/match/surroundings'
import { cropPicture } from '@/core/raster/crop'
import { type Matte, type Picture } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { skyIn } from '@/core/select/sky'
import { readSky, SKY_FINDER } from '@/engine/newSky'
import { ciede2000 } from './ciede2000'
import { mean, read, worst } from './measuring'

/** Pieces tried in each half of a place, and how many pixels apart they are compared. */
const PIECES = 2,
  APART = 11
/** Radii of a piece, px. */
const RADIUS = [25, 75] as const

interface View {
  readonly place: string
  readonly photo: Measures
  readonly sky: SkyPicture
}

/** Linear congruential, constants of Numerical Recipes: the same pieces each time. */
let seed = 7
const share = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32

const half = (picture: Picture, right: boolean): Picture =>
  cropPicture(picture, {
    x: right ? picture.width >> 1 : 0,
    y: 0,
    width: picture.width >> 1,
    height: picture.height,
  })

async function viewsOf(folder: string, name: string): Promise<View[]> {
  const { skies } = JSON.parse(readFileSync(join(folder, name, 'meta.json'), 'utf8')) as {
    skies: { picture: string; truth: string }[]
  }
  const views: View[] = []
  for (const { picture, truth } of skies) {
    const photo = await read(join(folder, name, truth)),
      context = plainContext(),
      found = skyIn(sceneOf(photo, `${name} ${truth}`), SKY_FINDER, context),
      sky = readSky(await read(join(folder, name, picture)), `${name} ${picture}`, context)
    if (typeof found === 'string' || typeof sky === 'string') continue
    views.push({ place: name, photo: measure(photo, found), sky })
  }
  return views
}

/** A piece of land in a half: an ellipse where hardly anything else is; null where none was found. */
function pieceIn(sky: Matte, water: Matte | null): Matte | null {
  const { width, height } = sky
  for (let tries = 0; tries < 60; tries++) {
    const across = RADIUS[0] + share() * (RADIUS[1] - RADIUS[0]),
      down = RADIUS[0] + share() * (RADIUS[1] - RADIUS[0]),
      x0 = share() * width,
      y0 = (0.3 + 0.7 * share()) * height
    let all = 0,
      land = 0
    const data = new Uint8Array(width * height)
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        if (((x - x0) / across) ** 2 + ((y - y0) / down) ** 2 > 1) continue
        all++
        if (sky.data[i] >= 3 || (water && water.data[i] >= 3)) continue
        land++
        data[i] = 255
      }
    if (all > 1500 && land / all > 0.97) return { width, height, data }
  }
  return null
}

function apart(made: Picture, truth: Picture, { data }: Matte): number {
  const found: number[] = []
  for (let i = 0; i < data.length; i += APART)
    if (data[i]) {
      const lab = (picture: Picture) => labOf(picture.data[4 * i], picture.data[4 * i + 1], picture.data[4 * i + 2])
      found.push(ciede2000(lab(made), lab(truth)))
    }
  return mean(found)
}

async function surroundings(folder: string, name: string, errors: Map<string, number[]>): Promise<void> {
  const place = join(folder, name),
    alpha = await read(join(place, 'alpha.png')),
    wet = existsSync(join(place, 'water.png')) ? await read(join(place, 'water.png')) : null,
    views: Picture[] = []
  for (const view of ['photo', 'truth1', 'truth2', 'truth3']) views.push(await read(join(place, `${view}.jpg`)))
  for (const right of [false, true])
    for (let piece = 0; piece < PIECES; piece++) {
      const sky = { own: greyOf(half(alpha, right)), below: greyOf(half(alpha, !right)) },
        shows = pieceIn(sky.own, wet && greyOf(half(wet, right)))
      if (!shows) continue
      for (const from of views)
        for (const to of views) {
          if (from === to) continue
          const own = half(from, right),
            below = half(to, !right),
            truth = half(to, right),
            alone = { ...own, data: own.data.map((v, i) => (i % 4 === 3 ? shows.data[i >> 2] : v)) }
          const made = (layer: Picture, all: boolean): Picture => {
            const found = matchLayer({ own: layer, shows, below, sky })
            return composeRegion(
              [
                {
                  kind: 'picture',
                  picture: { levels: [own], opaque: true },
                  toCanvas: [1, 0, 0, 1, 0, 0],
                  opacity: 1,
                },
                ...(found
                  ? all
                    ? [found.relight, found.contrast, found.blur, found.grain]
                    : [found.relight]
                  : []
                ).map((adjustment) => ({ kind: 'adjust' as const, adjustment, opacity: 1 })),
              ],
              { level: 0, x: 0, y: 0, width: own.width, height: own.height },
            )
          }
          for (const [what, picture] of [
            ['untouched', own],
            ['light', made(own, false)],
            ['all', made(own, true)],
            ['a cut-out alone', made(alone, false)],
          ] as const)
            errors.set(what, [...(errors.get(what) ?? []), apart(picture, truth, shows)])
        }
    }
}

const views: View[] = [],
  errors = new Map<string, number[]>()
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    if (!existsSync(join(folder, name, 'meta.json'))) continue
    views.push(...(await viewsOf(folder, name)))
    await surroundings(folder, name, errors)
  }

const behind: number[] = []
let first = 0
for (const { place, photo, sky } of views) {
  const score = (other: View) => fitOf(photo, other.sky)?.score ?? 0,
    own = fitOf(photo, sky)?.score ?? 0
  behind.push(mean(views.map((other) => (score(other) < own || other.sky === sky ? 1 : 0))))
  if (views.every((other) => other.place !== place || score(other) <= own)) first++
}
console.log(
  `fit: the true sky ranks before ${(100 * mean(behind)).toFixed(1)} % of ${views.length}, first of its place's in ${((100 * first) / views.length).toFixed(0)} %`,
)
const untouched = errors.get('untouched') ?? []
for (const [what, found] of errors)
  console.log(
    `${what}: ${mean(found).toFixed(2)}, worst tenth ${worst(found).toFixed(2)}, worse than untouched ${((100 * found.filter((v, i) => v > untouched[i]).length) / found.length).toFixed(0)} % of ${found.length}`,
  )
