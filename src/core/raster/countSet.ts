/** How many pixels of a mask are 1. @param mask 0 or 1 each; most of them 0 */
export function countSet(mask: Uint8Array): number {
  let count = 0
  for (let i = mask.indexOf(1); i >= 0; i = mask.indexOf(1, i)) for (; mask[i] === 1; i++) count++
  return count
}
