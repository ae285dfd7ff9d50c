/** A matte solved from a trimap picture: black is outside, white inside, anything between is to be solved. */
import { THINGS_VERSION } from '../network/network'
import { trimap as trimapStep, type TrimapFields } from '../steps/trimap'
import { solveUnknown } from '../matting/solveUnknown'
import { emptyMatte } from '../raster/picture'
import { type Finder, type Found } from './finder'
import { coverageOf, pictureOf } from './image'

export const trimap: Finder<'trimap', TrimapFields> = {
  ...trimapStep,
  version: THINGS_VERSION,
  find(scene, { asset, solver, sample }, context) {
    const given = coverageOf(pictureOf(scene, asset), 'luminance'),
      matte = emptyMatte(scene),
      unknown = new Uint8Array(matte.data.length)
    const column = Int32Array.from({ length: scene.width }, (_, x) =>
      Math.floor(((x + 0.5) * given.width) / scene.width),
    )
    let open = 0,
      inside = 0,
      outside = 0
    for (let y = 0, i = 0; y < scene.height; y++) {
      const row = Math.floor(((y + 0.5) * given.height) / scene.height) * given.width
      for (let x = 0; x < scene.width; x++, i++) {
        const value = given.data[row + column[x]]
        matte.data[i] = value
        if (value === 255) inside++
        else if (value === 0) outside++
        else {
          unknown[i] = 1
          open++
        }
      }
    }
    if (open === 0) return matte
    const lacking = inside === 0 ? 'inside (white)' : outside === 0 ? 'outside (black)' : '',
      guessed = solver === 'auto' && context.network !== false && inside + outside > 0
    if (lacking && !guessed)
      return {
        ...emptyMatte(scene),
        note: `Nothing found, because nothing in the trimap is surely ${lacking}.`,
      } satisfies Found
    solveUnknown(scene.picture(sample), matte, unknown, solver, context)
    return lacking ? { ...matte, note: `Nothing in the trimap is surely ${lacking}: coverage is a guess.` } : matte
  },
}
