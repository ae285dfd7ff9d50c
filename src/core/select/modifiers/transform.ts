import { transform as transformStep } from '../../steps/modifiers/transform'
import { inverse } from '../../raster/affine'
import { emptyMatte } from '../../raster/picture'
import { sampleCoverageRow } from '../../raster/sampleRow'
import { type Modifier } from '../finder'

/** Moves, scales and turns the selection without its pixels: [a, b, c, d, e, f], x' = a·x + c·y + e, y' = b·x + d·y + f. What a flat matrix would flatten is nothing. */
export const transform: Modifier<'transform', { matrix: readonly [number, number, number, number, number, number] }> = {
  ...transformStep,
  modify(matte, params) {
    const out = emptyMatte(matte)
    let back
    try {
      back = inverse(params.matrix)
    } catch {
      return out
    }
    const row = new Float32Array(matte.width)
    for (let y = 0; y < matte.height; y++) {
      if (!sampleCoverageRow(matte, back, y, row)) continue
      for (let x = 0; x < row.length; x++) out.data[y * matte.width + x] = row[x] * 255 + 0.5
    }
    return out
  },
}
