/** Tone and colour of a part of a picture, in CIELAB. */
import { labOf } from '../colour/lab'
import { type Picture } from '../raster/picture'

export interface Tones {
  /** Means of L* (0-100), a* and b*, and their standard deviations. */
  readonly mean: readonly [L: number, a: number, b: number]
  readonly deviation: readonly [L: number, a: number, b: number]
  /** L* that a twentieth, half and all but a twentieth of the part lie below. */
  readonly dark: number
  readonly middle: number
  readonly light: number
}

/** Of the pixels that `part` covers, or with `inside` false of those it does not; null where there are none. */
export function tonesOf({ data }: Picture, part: Uint8Array, inside: boolean): Tones | null {
  const sum = [0, 0, 0],
    squares = [0, 0, 0],
    counts = new Uint32Array(1001)
  let count = 0
  for (let p = 0, i = 0; p < part.length; p++, i += 4) {
    if (data[i + 3] < 250 || (inside ? part[p] < 250 : part[p] > 5)) continue
    const lab = labOf(data[i], data[i + 1], data[i + 2])
    for (let c = 0; c < 3; c++) {
      sum[c] += lab[c]
      squares[c] += lab[c] ** 2
    }
    counts[Math.min(1000, Math.round(lab[0] * 10))]++
    count++
  }
  if (!count) return null
  const below = (share: number) => {
    let seen = 0,
      k = 0
    while (k < 1000 && (seen += counts[k]) < share * count) k++
    return k / 10
  }
  const of = (make: (c: number) => number): [number, number, number] => [make(0), make(1), make(2)]
  return {
    mean: of((c) => sum[c] / count),
    deviation: of((c) => Math.sqrt(Math.max(0, squares[c] / count - (sum[c] / count) ** 2))),
    dark: below(0.05),
    middle: below(0.5),
    light: below(0.95),
  }
}
