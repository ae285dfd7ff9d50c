// Looking up pixels in tables.

/**
 * For each RGBA word the byte of a table over the upper `bits` bits of each channel (red lowest); 255 where alpha is 0.
 * Stops at the first pixel whose cell holds `unknown`, and returns how many pixels are done.
 */
export function lookUpColours(words: usize, out: usize, count: u32, table: usize, bits: u32, unknown: u32): u32 {
  const dropped = 8 - bits,
    mask: u32 = (((1 << bits) - 1) << dropped) & 255
  for (let i: u32 = 0; i < count; i++) {
    const word = load<u32>(words + (i << 2))
    const cell =
      ((word & mask) >> dropped) |
      (((word >> 8) & mask) << (bits - dropped)) |
      (((word >> 16) & mask) << (2 * bits - dropped))
    const value = load<u8>(table + cell)
    if (value === (unknown as u8)) return i
    store<u8>(out + i, word >> 24 === 0 ? 255 : value)
  }
  return count
}

/** Each byte through a table of 256. */
export function mapBytes(from: usize, to: usize, count: u32, table: usize): void {
  for (let i: u32 = 0; i < count; i++) store<u8>(to + i, load<u8>(table + load<u8>(from + i)))
}
