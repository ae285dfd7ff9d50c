// Mip levels: the mean of 2 × 2 pixels.

/** Words of a half-size row from the two rows it lies on, `count` of them, all channels rounded to nearest. Stops before the first four of which a source px is not opaque; returns how many are done. */
export function halveRow(top: usize, bottom: usize, to: usize, count: i32): i32 {
  const two = i16x8.splat(2),
    opaque = i32x4.splat(-16777216)
  let i: i32 = 0
  for (; i + 4 <= count; i += 4, top += 32, bottom += 32, to += 16) {
    const a = v128.load(top),
      b = v128.load(top, 16),
      c = v128.load(bottom),
      d = v128.load(bottom, 16)
    if (!i32x4.all_true(i32x4.eq(v128.and(v128.and(v128.and(a, b), v128.and(c, d)), opaque), opaque))) break
    // Even and odd px of each row, then sums of four bytes in 16 bits.
    const even0 = i32x4.shuffle(a, b, 0, 2, 4, 6),
      odd0 = i32x4.shuffle(a, b, 1, 3, 5, 7),
      even1 = i32x4.shuffle(c, d, 0, 2, 4, 6),
      odd1 = i32x4.shuffle(c, d, 1, 3, 5, 7)
    const low = i16x8.add(
      i16x8.add(i16x8.extend_low_i8x16_u(even0), i16x8.extend_low_i8x16_u(odd0)),
      i16x8.add(i16x8.extend_low_i8x16_u(even1), i16x8.extend_low_i8x16_u(odd1)),
    )
    const high = i16x8.add(
      i16x8.add(i16x8.extend_high_i8x16_u(even0), i16x8.extend_high_i8x16_u(odd0)),
      i16x8.add(i16x8.extend_high_i8x16_u(even1), i16x8.extend_high_i8x16_u(odd1)),
    )
    v128.store(to, i8x16.narrow_i16x8_u(i16x8.shr_u(i16x8.add(low, two), 2), i16x8.shr_u(i16x8.add(high, two), 2)))
  }
  return i
}
