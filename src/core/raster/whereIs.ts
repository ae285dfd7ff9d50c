/** 1 where it is that value, else 0. */
export function whereIs(data: Uint8Array, value: number): Uint8Array {
  const out = new Uint8Array(data.length)
  for (let i = 0; i < out.length; i++) if (data[i] === value) out[i] = 1
  return out
}
