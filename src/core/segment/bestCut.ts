import { keepObject } from './keepObject'
import { type LabPlanes } from './labPlanes'
import { cutSmall, type SmallAnswer } from './objectCut'

/**
 * Cuts each of several first guesses by colours and contrast, and keeps the best; null where there is no guess.
 * @param guesses how probably each pixel is inside, 0-1 @param scoreOf of the cut of the n-th guess @param enough a cut as good as this needs no further guess
 */
export function bestCut(
  guesses: readonly (Float32Array | null)[],
  { lab, given, enough = Infinity }: { lab: LabPlanes; given: Uint8Array; enough?: number },
  scoreOf: (state: Uint8Array, n: number) => number,
  check: (progress: number) => void,
): SmallAnswer | null {
  const weight = new Float32Array(given.length).fill(1)
  let best: SmallAnswer | null = null,
    most = 0
  for (const [n, guess] of guesses.entries()) {
    if (!guess) continue
    const cut = cutSmall(
        { lab, given, guess, weight, tidy: (s, evidence, first) => keepObject(s, evidence, first, lab) },
        (p) => check((n + p) / guesses.length),
      ),
      score = scoreOf(cut.state, n)
    if (!best || score > most) [best, most] = [cut, score]
    if (score >= enough) break
  }
  return best
}
