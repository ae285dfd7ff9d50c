/** What a byte says while a pick is being made: sure inside, sure outside, or on either side of the edge. */
export const IN = 255,
  IN_EDGE = 254,
  OUT_EDGE = 1,
  OUT = 0

/** Marks to a hard mask, in place. */
export function hardened(marks: Uint8Array, edge: Int32Array): Uint8Array {
  for (let k = 0; k < edge.length; k++) marks[edge[k]] = marks[edge[k]] === IN_EDGE ? IN : OUT
  return marks
}
