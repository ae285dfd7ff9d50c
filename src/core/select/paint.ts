import { paint as paintStep, type PaintFields, STROKE_DEFAULTS } from '../steps/paint'
import { emptyMatte, type Matte } from '../raster/picture'
import { paintStrokes } from '../raster/brush'
import { type Finder } from './finder'

/** What was painted. The strokes stay, so size and hardness can be changed afterwards in both directions. */
export const paint: Finder<'paint', PaintFields> = {
  ...paintStep,
  find(scene, params, context) {
    const all = params.strokes.map((stroke) => ({ ...STROKE_DEFAULTS, ...stroke }))
    // While the last stroke is drawn, the ones before it stay as they are.
    const before = all.slice(0, -1),
      key = `paint ${scene.width}×${scene.height} ${JSON.stringify(before)}`
    const known = before.length ? context.memory.get<Matte>(key) : undefined
    const matte = known ? { ...known, data: known.data.slice() } : emptyMatte(scene)
    if (!known && before.length) {
      paintStrokes(matte, before, context.check)
      context.memory.set(key, { ...matte, data: matte.data.slice() }, matte.data.byteLength)
    }
    paintStrokes(matte, all.slice(-1), context.check)
    return matte
  },
}
