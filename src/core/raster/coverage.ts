/**
 * How coverages combine: add = max, subtract = max(0, a − s), intersect = min, invert = 255 − a. So a shape added to or
 * intersected with itself is itself, subtracted from itself leaves nothing, and inverting twice changes nothing.
 */
import { type Matte } from './picture'

export type CombineOp = 'add' | 'subtract' | 'intersect'
export const COMBINE_OPS: readonly CombineOp[] = ['add', 'subtract', 'intersect']

/** Combines `step` into `sum`, in place. Both have the same size. */
export function combineInto(sum: Matte, step: Matte, op: CombineOp): void {
  const a = sum.data,
    s = step.data
  if (a.length !== s.length)
    throw new RangeError(
      `Two mattes of different sizes cannot be combined: ${sum.width}×${sum.height} and ${step.width}×${step.height}.`,
    )
  if (op === 'add')
    for (let i = 0; i < a.length; i++) {
      if (s[i] > a[i]) a[i] = s[i]
    }
  else if (op === 'subtract')
    for (let i = 0; i < a.length; i++) {
      const v = a[i] - s[i]
      a[i] = v > 0 ? v : 0
    }
  else
    for (let i = 0; i < a.length; i++) {
      if (s[i] < a[i]) a[i] = s[i]
    }
}

/** Inverts in place, four pixels at a time where the memory allows it. */
export function invertInto(matte: Matte): void {
  const { data } = matte
  const aligned = data.byteOffset % 4 === 0 ? data.length >> 2 : 0
  const quads = new Uint32Array(data.buffer, aligned ? data.byteOffset : 0, aligned)
  for (let i = 0; i < aligned; i++) quads[i] = ~quads[i]
  for (let i = aligned * 4; i < data.length; i++) data[i] = 255 - data[i]
}

/** Coverage, 0-1, from which a pixel counts as all of a thing, and up to which as all of what lies around it. */
export const FULL = 0.98,
  EMPTY = 0.02
