// Resampling rows of premultiplied floats by weights worked out beforehand.

/** For each of `count` pixels at `to`: `taps` pixels from its start on (an i32 each), weighed (`taps` floats each). */
export function weighSpans(from: usize, to: usize, count: u32, starts: usize, weights: usize, taps: u32): void {
  for (let x: u32 = 0; x < count; x++, to += 16, starts += 4) {
    let at = from + ((<usize>load<i32>(starts)) << 4),
      sum = f32x4.splat(0)
    for (let k: u32 = 0; k < taps; k++, at += 16, weights += 4)
      sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load32_splat(weights)))
    v128.store(to, sum)
  }
}

/** A row at `to` of `count` pixels from `taps` rows, whose places stand at `rows` (a u32 each), weighed. */
export function weighRows(rows: usize, to: usize, count: u32, weights: usize, taps: u32): void {
  for (let x: u32 = 0; x < count; x++, to += 16) {
    const off = (<usize>x) << 4
    let sum = f32x4.splat(0)
    for (let k: u32 = 0; k < taps; k++)
      sum = f32x4.add(
        sum,
        f32x4.mul(
          v128.load(<usize>load<u32>(rows + <usize>(k << 2)) + off),
          v128.load32_splat(weights + <usize>(k << 2)),
        ),
      )
    v128.store(to, sum)
  }
}

/** Alpha within 0-1 and no colour beyond what it allows: the weights overshoot at steps. In place. */
export function settleRow(at: usize, count: u32): void {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1)
  for (let i: u32 = 0; i < count; i++, at += 16) {
    let p = v128.load(at)
    const alpha = f32x4.extract_lane(p, 3)
    if (alpha > 1) p = f32x4.mul(p, f32x4.splat(1 / alpha))
    const most = f32x4.min(one, f32x4.max(zero, v128.shuffle<f32>(p, p, 3, 3, 3, 3)))
    v128.store(at, f32x4.min(most, f32x4.max(zero, p)))
  }
}
