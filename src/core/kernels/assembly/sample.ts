// Pictures seen through an affine map. The source is a rectangle of premultiplied floats with two empty pixels all round; coordinates count from its first pixel within these.

// Source of the cubic: Keys, "Cubic convolution interpolation for digital image processing", IEEE Trans. ASSP 29 (1981).

// @ts-ignore: decorator
@inline function cubic(t: f32, at: i32): f32 {
  // Keys, a = −½: the weights of the four neighbours
  const t2: f32 = t * t,
    t3: f32 = t2 * t
  if (at === 0) return <f32>-0.5 * t3 + t2 - <f32>0.5 * t
  if (at === 1) return <f32>1.5 * t3 - <f32>2.5 * t2 + 1
  if (at === 2) return <f32>-1.5 * t3 + 2 * t2 + <f32>0.5 * t
  return <f32>0.5 * t3 - <f32>0.5 * t2
}
// @ts-ignore: decorator
@inline function across(at: usize, a: v128, b: v128, c: v128, d: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load(at), a), f32x4.mul(v128.load(at, 16), b)),
    f32x4.add(f32x4.mul(v128.load(at, 32), c), f32x4.mul(v128.load(at, 48), d)),
  )
}

/**
 * Fills `count` pixels at `to`; the first lies at (u, v), each next one at + (du, dv). `source` is the first pixel of the rectangle with its rim, `stride` its row in bytes.
 * Cubic where `fine`, otherwise bilinear. False when none of them touches the rectangle (`to` is then not valid).
 */
export function sampleRow(
  source: usize,
  stride: usize,
  width: i32,
  height: i32,
  u: f64,
  v: f64,
  du: f64,
  dv: f64,
  to: usize,
  count: u32,
  fine: bool,
): bool {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1)
  let touched = false
  for (let i: u32 = 0; i < count; i++, to += 16, u += du, v += dv) {
    const left = Math.floor(u),
      top = Math.floor(v)
    // With the rim of two the neighbours of x from −1 to width − 1 are there; farther out there is nothing to see but the last of the cubic's small lobes.
    if (left < -1 || top < -1 || left >= <f64>width || top >= <f64>height) {
      v128.store(to, zero)
      continue
    }
    touched = true
    const x = <i32>left,
      y = <i32>top
    const right = <f32>(u - left),
      low = <f32>(v - top)
    // (x, y) within the rim of two.
    const at = source + <usize>(y + 2) * stride + ((<usize>(x + 2)) << 4)
    if (fine) {
      const a = f32x4.splat(cubic(right, 0)),
        b = f32x4.splat(cubic(right, 1)),
        c = f32x4.splat(cubic(right, 2)),
        d = f32x4.splat(cubic(right, 3))
      let sum = f32x4.mul(across(at - stride - 16, a, b, c, d), f32x4.splat(cubic(low, 0)))
      sum = f32x4.add(sum, f32x4.mul(across(at - 16, a, b, c, d), f32x4.splat(cubic(low, 1))))
      sum = f32x4.add(sum, f32x4.mul(across(at + stride - 16, a, b, c, d), f32x4.splat(cubic(low, 2))))
      sum = f32x4.add(sum, f32x4.mul(across(at + 2 * stride - 16, a, b, c, d), f32x4.splat(cubic(low, 3))))
      // The cubic overshoots at steps: alpha stays within 0-1, taking its colour along, and no colour leaves what its alpha allows.
      const alpha = f32x4.extract_lane(sum, 3)
      if (alpha > 1) sum = f32x4.mul(sum, f32x4.splat(1 / alpha))
      const most = f32x4.min(one, f32x4.max(zero, v128.shuffle<f32>(sum, sum, 3, 3, 3, 3)))
      v128.store(to, f32x4.min(most, f32x4.max(zero, sum)))
    } else {
      const r = f32x4.splat(right),
        l = f32x4.splat(1 - right)
      const upper = f32x4.add(f32x4.mul(v128.load(at), l), f32x4.mul(v128.load(at, 16), r)),
        lower = f32x4.add(f32x4.mul(v128.load(at + stride), l), f32x4.mul(v128.load(at + stride, 16), r))
      v128.store(to, f32x4.add(f32x4.mul(upper, f32x4.splat(1 - low)), f32x4.mul(lower, f32x4.splat(low))))
    }
  }
  return touched
}
