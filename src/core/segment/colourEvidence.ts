/** How much a colour speaks for the subject, from two mixtures of colours: a table over the colour cube, filled as colours are met. */
import { labOf } from '../colour/lab'
import { type Mixture, mixtureCost } from './mixture'

/** Bits of each channel that are told apart. */
const BITS = 6
/** The densities below which a colour belongs to neither: it then says nothing. */
const FLOOR = 1e-6

/** The place of a word's colour in the table, red lowest. */
export const cellOf = (word: number): number => ((word >>> 2) & 63) | ((word >>> 4) & 0xfc0) | ((word >>> 6) & 0x3f000)

/** Nats in favour of `inside` (below zero: of `outside`) of an RGB word. */
export class ColourEvidence {
  /** By `cellOf`; NaN where nobody has asked yet. */
  readonly table = new Float32Array(1 << (3 * BITS)).fill(NaN)
  constructor(
    private readonly inside: Mixture,
    private readonly outside: Mixture,
  ) {}

  of(word: number): number {
    const cell = cellOf(word),
      known = this.table[cell]
    if (known === known) return known
    const [L, a, b] = labOf((word & 0xfc) | 2, ((word >>> 8) & 0xfc) | 2, ((word >>> 16) & 0xfc) | 2)
    return (this.table[cell] = Math.log(
      (Math.exp(-mixtureCost(this.inside, L, a, b)) + FLOOR) / (Math.exp(-mixtureCost(this.outside, L, a, b)) + FLOOR),
    ))
  }

  /** The same for a run of words, into `out` from `at` on. */
  row(words: Uint32Array, from: number, count: number, out: Float32Array, at: number): void {
    const { table } = this
    for (let i = from, end = from + count; i < end; i++, at++) {
      const word = words[i],
        known = table[cellOf(word)]
      out[at] = known === known ? known : this.of(word)
    }
  }
}
