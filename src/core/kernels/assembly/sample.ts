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
/** Four pixels of a column, from the one above `at` on, weighed. */
// @ts-ignore: decorator
@inline function down(at: usize, stride: usize, a: v128, b: v128, c: v128, d: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load(at - stride), a), f32x4.mul(v128.load(at), b)),
    f32x4.add(f32x4.mul(v128.load(at + stride), c), f32x4.mul(v128.load(at + 2 * stride), d)),
  )
}
// @ts-ignore: decorator
@inline function across(at: usize, a: v128, b: v128, c: v128, d: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load(at), a), f32x4.mul(v128.load(at, 16), b)),
    f32x4.add(f32x4.mul(v128.load(at, 32), c), f32x4.mul(v128.load(at, 48), d)),
  )
}

/** The cubic overshoots at steps: alpha stays within 0-1, taking its colour along, and no colour leaves what its alpha allows. */
// @ts-ignore: decorator
@inline function allowed(sum: v128): v128 {
  const zero = f32x4.splat(0),
    alpha = f32x4.extract_lane(sum, 3)
  if (alpha > 1) sum = f32x4.mul(sum, f32x4.splat(1 / alpha))
  const most = f32x4.min(f32x4.splat(1), f32x4.max(zero, v128.shuffle<f32>(sum, sum, 3, 3, 3, 3)))
  return f32x4.min(most, f32x4.max(zero, sum))
}
// @ts-ignore: decorator
@inline function between(a: v128, b: v128, l: v128, r: v128): v128 {
  return f32x4.add(f32x4.mul(a, l), f32x4.mul(b, r))
}

/** As sampleRow for a map that only shifts: the weights are the same everywhere, and each column is put together once. */
function shiftedRow(
  source: usize,
  stride: usize,
  width: i32,
  height: i32,
  u: f64,
  v: f64,
  to: usize,
  count: u32,
  fine: bool,
): bool {
  const zero = f32x4.splat(0)
  const left = <i32>Math.floor(u),
    top = <i32>Math.floor(v)
  // As there: what lies from −1 to width − 1 is there.
  const from: i32 = max(0, -1 - left),
    until: i32 = min(<i32>count, width - left)
  if (top < -1 || top >= height || until <= from) return false
  for (let i: i32 = 0; i < from; i++) v128.store(to + ((<usize>i) << 4), zero)
  for (let i: i32 = until; i < <i32>count; i++) v128.store(to + ((<usize>i) << 4), zero)
  const right = <f32>(u - <f64>left),
    low = <f32>(v - <f64>top)
  let at = source + <usize>(top + 2) * stride + ((<usize>(left + from + 2)) << 4)
  to += (<usize>from) << 4
  if (fine) {
    const a = f32x4.splat(cubic(right, 0)),
      b = f32x4.splat(cubic(right, 1)),
      c = f32x4.splat(cubic(right, 2)),
      d = f32x4.splat(cubic(right, 3))
    const e = f32x4.splat(cubic(low, 0)),
      f = f32x4.splat(cubic(low, 1)),
      g = f32x4.splat(cubic(low, 2)),
      h = f32x4.splat(cubic(low, 3))
    let one = down(at - 16, stride, e, f, g, h),
      two = down(at, stride, e, f, g, h),
      three = down(at + 16, stride, e, f, g, h)
    for (let i: i32 = from; i < until; i++, to += 16, at += 16) {
      const four = down(at + 32, stride, e, f, g, h)
      v128.store(
        to,
        allowed(
          f32x4.add(
            f32x4.add(f32x4.mul(one, a), f32x4.mul(two, b)),
            f32x4.add(f32x4.mul(three, c), f32x4.mul(four, d)),
          ),
        ),
      )
      one = two
      two = three
      three = four
    }
    return true
  }
  const r = f32x4.splat(right),
    l = f32x4.splat(1 - right),
    lower = f32x4.splat(low),
    upper = f32x4.splat(1 - low)
  let here = between(v128.load(at), v128.load(at + stride), upper, lower)
  for (let i: i32 = from; i < until; i++, to += 16) {
    at += 16
    const next = between(v128.load(at), v128.load(at + stride), upper, lower)
    v128.store(to, between(here, next, l, r))
    here = next
  }
  return true
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
  if (du === 1 && dv === 0) return shiftedRow(source, stride, width, height, u, v, to, count, fine)
  const zero = f32x4.splat(0)
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
      v128.store(to, allowed(sum))
    } else {
      const r = f32x4.splat(right),
        l = f32x4.splat(1 - right)
      const upper = between(v128.load(at), v128.load(at, 16), l, r),
        lower = between(v128.load(at + stride), v128.load(at + stride, 16), l, r)
      v128.store(to, between(upper, lower, f32x4.splat(1 - low), f32x4.splat(low)))
    }
  }
  return touched
}
