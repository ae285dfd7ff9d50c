import { gradient as gradientStep, type GradientFields } from '../steps/gradient'
import { rampPlace, stopTable } from '../raster/ramp'
import { emptyMatte } from '../raster/picture'
import { type Finder } from './finder'

const STEPS = 2048

/** A ramp between two ends: along a line, about a point, or round it. */
export const gradient: Finder<'gradient', GradientFields> = {
  ...gradientStep,
  find(scene, { shape, from, to, stops: given }, context) {
    const matte = emptyMatte(scene),
      { width, height, data } = matte
    const place = rampPlace(shape, from, to)
    const table = Uint8Array.from(
      stopTable(
        given.map(([at, v]) => ({ at, value: [v] })),
        1,
        STEPS,
      ),
      (v) => Math.round(255 * v),
    )
    for (let y = 0, i = 0; y < height; y++) {
      if (y % 64 === 0) context.check(y / height)
      for (let x = 0; x < width; x++, i++) data[i] = table[(place(x + 0.5, y + 0.5) * STEPS + 0.5) | 0]
    }
    return matte
  },
}
