// Dabs of a brush, sixteen pixels at a time.

/** Writes the greater of stamp and target into the target, for `rows` rows of `count` pixels, a multiple of 16. Strides in bytes. */
export function maxRows(target: usize, targetStride: u32, stamp: usize, stampStride: u32, count: u32, rows: u32): void {
  for (let y: u32 = 0; y < rows; y++) {
    for (let x: u32 = 0; x < count; x += 16)
      v128.store(target + x, i8x16.max_u(v128.load(target + x), v128.load(stamp + x)))
    target += targetStride
    stamp += stampStride
  }
}

/** round(a·b / 255) of eight 16-bit lanes: exact for products up to 65025. */
@inline function share8(a: v128, b: v128): v128 {
  const t = i16x8.add(i16x8.mul(a, b), i16x8.splat(128))
  return i16x8.shr_u(i16x8.add(t, i16x8.shr_u(t, 8)), 8)
}

/** Lays coverage × strength (0-255) over what is below, or takes it off. `count` is a multiple of 16. */
export function layOver(below: usize, coverage: usize, count: u32, strength: u32, erase: bool): void {
  const all = i8x16.splat(-1),
    s = i16x8.splat(strength as i16)
  for (let i: u32 = 0; i < count; i += 16) {
    const c = v128.load(coverage + i)
    if (!v128.any_true(c)) continue
    const low = share8(i16x8.extend_low_i8x16_u(c), s),
      high = share8(i16x8.extend_high_i8x16_u(c), s)
    const b = v128.load(below + i)
    if (erase) {
      v128.store(below + i, i8x16.sub_sat_u(b, i8x16.narrow_i16x8_u(low, high)))
      continue
    }
    const left = i8x16.sub(all, b)
    const wide = i16x8.splat(255)
    const keepLow = share8(i16x8.extend_low_i8x16_u(left), i16x8.sub(wide, low)),
      keepHigh = share8(i16x8.extend_high_i8x16_u(left), i16x8.sub(wide, high))
    v128.store(below + i, i8x16.sub(all, i8x16.narrow_i16x8_u(keepLow, keepHigh)))
  }
}
