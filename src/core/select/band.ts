import { band as bandStep, type BandFields } from '../steps/band'
import { emptyMatte } from '../raster/picture'
import { type Finder } from './finder'

/** A full row or column of the canvas, of any thickness. */
export const band: Finder<'band', BandFields> = {
  ...bandStep,
  find(scene, { axis, start, size }) {
    const matte = emptyMatte(scene)
    const { width, height, data } = matte
    const covered = (i: number) => Math.round(255 * Math.max(0, Math.min(i + 1, start + size) - Math.max(i, start)))
    if (axis === 'row') for (let y = 0; y < height; y++) data.fill(covered(y), y * width, (y + 1) * width)
    else {
      const row = Uint8Array.from({ length: width }, (_, x) => covered(x))
      for (let y = 0; y < height; y++) data.set(row, y * width)
    }
    return matte
  },
}
