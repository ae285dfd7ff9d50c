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

// @ts-ignore: decorator
@inline function meanOf(topRow: v128, bottomRow: v128): v128 {
  const sums = i16x8.add(i16x8.extadd_pairwise_i8x16_u(topRow), i16x8.extadd_pairwise_i8x16_u(bottomRow))
  return i16x8.shr_u(i16x8.add(sums, i16x8.splat(2)), 2)
}
/** Half-size rows of coverage from `rows` rows of `width` bytes, rounded to nearest; a last row or column by itself stands for two. */
export function halveCoverage(from: usize, width: i32, rows: i32, to: usize): void {
  const whole = width >> 1
  for (let y: i32 = 0; y < rows; y += 2) {
    let top = from + <usize>y * <usize>width,
      bottom = y + 1 < rows ? top + <usize>width : top,
      x: i32 = 0
    for (; x + 16 <= whole; x += 16, top += 32, bottom += 32, to += 16)
      v128.store(
        to,
        i8x16.narrow_i16x8_u(
          meanOf(v128.load(top), v128.load(bottom)),
          meanOf(v128.load(top, 16), v128.load(bottom, 16)),
        ),
      )
    for (; x < whole; x++, top += 2, bottom += 2, to++)
      store<u8>(to, (<i32>load<u8>(top) + load<u8>(top, 1) + load<u8>(bottom) + load<u8>(bottom, 1) + 2) >> 2)
    if (width & 1) store<u8>(to++, (<i32>load<u8>(top) + load<u8>(bottom) + 1) >> 1)
  }
}

/**
 * Adds `rows` rows of coverage, `width` bytes each, to what is counted in `to`: u64 sum of all, u64 how many are neither 0 nor 255, i32 the first
 * row and the last in which something is covered, and the first column and the last. `row` is the number of the first one.
 */
export function tallyRows(from: usize, width: i32, rows: i32, row: i32, to: usize): void {
  const empty = i8x16.splat(0),
    full = i8x16.splat(-1),
    wide = width & ~15
  let all: u64 = load<u64>(to),
    soft: u64 = load<u64>(to, 8),
    left = load<i32>(to, 24),
    right = load<i32>(to, 28)
  for (const end = row + rows; row < end; row++, from += <usize>width) {
    let sums = i32x4.splat(0),
      flat: i32 = 0,
      x: i32 = 0
    for (; x < wide; x += 16) {
      const v = v128.load(from + <usize>x)
      sums = i32x4.add(sums, i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(v)))
      flat += popcnt<i32>(i8x16.bitmask(v128.or(i8x16.eq(v, empty), i8x16.eq(v, full))))
    }
    let sum: u64 =
      <u64>i32x4.extract_lane(sums, 0) +
      <u64>i32x4.extract_lane(sums, 1) +
      <u64>i32x4.extract_lane(sums, 2) +
      <u64>i32x4.extract_lane(sums, 3)
    for (; x < width; x++) {
      const v = load<u8>(from + <usize>x)
      sum += <u64>v
      if (v === 0 || v === 255) flat++
    }
    all += sum
    soft += <u64>(width - flat)
    if (sum === 0) continue
    if (load<i32>(to, 16) < 0) store<i32>(to, row, 16)
    store<i32>(to, row, 20)
    // What lies before the first column and behind the last one so far, sixteen px at a time while they are empty.
    x = 0
    while (x + 16 <= left && !v128.any_true(v128.load(from + <usize>x))) x += 16
    while (x < left && load<u8>(from + <usize>x) === 0) x++
    if (x < left) left = x
    x = width
    while (x - 16 > right && !v128.any_true(v128.load(from + <usize>(x - 16)))) x -= 16
    while (x - 1 > right && load<u8>(from + <usize>(x - 1)) === 0) x--
    if (x - 1 > right) right = x - 1
  }
  store<u64>(to, all)
  store<u64>(to, soft, 8)
  store<i32>(to, left, 24)
  store<i32>(to, right, 28)
}

/**
 * A row of coverage seen through an affine map, bilinear; what lies beyond the source is 0. The source has an empty byte all round: `u` and `v` count from
 * its first px within, from one middle of a px to the next, and grow by `a` and `b` with each px.
 */
export function coverageRow(
  source: usize,
  width: i32,
  height: i32,
  u: f64,
  v: f64,
  a: f64,
  b: f64,
  to: usize,
  count: u32,
): void {
  const stride = width + 2
  for (let x: u32 = 0; x < count; x++, u += a, v += b) {
    if (u <= -1 || v <= -1 || u >= <f64>width || v >= <f64>height) {
      store<u8>(to + x, 0)
      continue
    }
    const left = floor(u),
      top = floor(v),
      at = source + (<i32>top + 1) * stride + <i32>left + 1,
      upper = load<u16>(at),
      lower = load<u16>(at + stride)
    // Most of what is selected, and of what is not, is all the same.
    if (upper === lower && (upper & 255) === upper >> 8) {
      store<u8>(to + x, <u8>upper)
      continue
    }
    const right = u - left,
      low = v - top,
      above = <f64>(upper & 255) * (1 - right) + <f64>(upper >> 8) * right,
      below = <f64>(lower & 255) * (1 - right) + <f64>(lower >> 8) * right
    store<u8>(to + x, <u8>(above * (1 - low) + below * low + 0.5))
  }
}
