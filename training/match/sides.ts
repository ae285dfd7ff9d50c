/**
 * How near light from a side brings a thing lit from one side to the same thing lit from the other, on cut-outs drawn twice (sides.py); mean CIEDE2000.
 * Usage: training/match/run sides FOLDER
 */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { labOf } from '@/core/colour/lab'
import { composeRegion } from '@/core/compose/composeRegion'
import { type AdjustmentOf } from '@/core/compose/adjustments/registry'
import { lightSideOf } from '@/core/match/lightSide'
import { sideOf } from '@/core/match/toldSide'
import { lightFrom } from '@/core/match/surroundings'
import { type Matte, type Picture } from '@/core/raster/picture'
import { ciede2000 } from './ciede2000'
import { mean, read, worst } from './measuring'

/** Pixels apart that are compared. */
const APART = 7

const lit = (picture: Picture, adjustment: AdjustmentOf<'sideLight'>): Picture =>
  composeRegion(
    [
      { kind: 'picture', picture: { levels: [picture], opaque: false }, toCanvas: [1, 0, 0, 1, 0, 0], opacity: 1 },
      { kind: 'adjust', adjustment, opacity: 1 },
    ],
    { level: 0, x: 0, y: 0, width: picture.width, height: picture.height },
  )
function apart(a: Picture, b: Picture): number {
  const found: number[] = []
  for (let i = 0; i < a.data.length; i += 4 * APART)
    if (a.data[i + 3] > 250 && b.data[i + 3] > 250) {
      const lab = ({ data }: Picture) => labOf(data[i], data[i + 1], data[i + 2])
      found.push(ciede2000(lab(a), lab(b)))
    }
  return mean(found)
}
const coverOf = ({ width, height, data }: Picture, from: (alpha: number) => number): Matte => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => from(data[4 * i + 3])),
})

const folder = process.argv[2],
  sides = JSON.parse(readFileSync(join(folder, 'sides.json'), 'utf8')) as Record<string, readonly [number, number]>,
  untouched: number[] = [],
  relit: number[] = []
let told = 0,
  right = 0
for (const [name, light] of Object.entries(sides)) {
  const pair = [await read(join(folder, `${name}-0.png`)), await read(join(folder, `${name}-1.png`))]
  for (const from of [0, 1]) {
    const own = pair[from],
      other = pair[1 - from],
      side = sideOf(
        lightSideOf(
          own,
          coverOf(own, (alpha) => 255 - alpha),
        ),
      )
    if (side) told++
    if (side && (side === 'left') === light[from] < 0) right++
    untouched.push(apart(own, other))
    const around = light[1 - from] < 0 ? 'left' : 'right'
    relit.push(
      apart(
        lit(
          own,
          lightFrom(
            own,
            coverOf(own, (alpha) => alpha),
            1,
            side,
            around,
          ),
        ),
        other,
      ),
    )
  }
}
const of = (values: readonly number[]) => `${mean(values).toFixed(2)} (worst tenth ${worst(values).toFixed(2)})`
console.log(
  `untouched ${of(untouched)}, lit from the other side ${of(relit)}, worse ${relit.filter((v, i) => v > untouched[i]).length} of ${relit.length}; side told of ${told}, right of ${right}`,
)
