import { wordsOf } from './wordsOf'

/** How many pixels of a mask are 1. @param mask 0 or 1 each; most of them 0 */
export function countSet(mask: Uint8Array): number {
  const words = wordsOf(mask)
  let count = 0
  for (let k = 0; k < words.length; k++) if (words[k]) count += Math.imul(words[k], 0x01010101) >>> 24
  for (let i = 4 * words.length; i < mask.length; i++) count += mask[i]
  return count
}
