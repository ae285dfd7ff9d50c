/** Numbers drawn from a seed, so that what was drawn can be drawn again. Source: mulberry32, a public-domain generator of 32 bits by T. Ettinger (from memory). */
export interface Random {
  (): number
  /** From least up to, not including, most. */
  between(least: number, most: number): number
  whole(least: number, most: number): number
  one<T>(of: readonly T[]): T
  chance(share: number): boolean
}
export function randomOf(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return Object.assign(next, {
    between: (least: number, most: number) => least + next() * (most - least),
    whole: (least: number, most: number) => Math.floor(least + next() * (most - least)),
    one: <T>(of: readonly T[]): T => of[Math.floor(next() * of.length)],
    chance: (share: number) => next() < share,
  })
}
