// The sixteen blend modes. Formulas: W3C Compositing and Blending Level 1.

// @ts-ignore: decorator
@inline function lum(c: v128): f32 {
  return (
    <f32>0.3 * f32x4.extract_lane(c, 0) + <f32>0.59 * f32x4.extract_lane(c, 1) + <f32>0.11 * f32x4.extract_lane(c, 2)
  )
}
// @ts-ignore: decorator
@inline function least(c: v128): f32 {
  return min(min(f32x4.extract_lane(c, 0), f32x4.extract_lane(c, 1)), f32x4.extract_lane(c, 2))
}
// @ts-ignore: decorator
@inline function greatest(c: v128): f32 {
  return max(max(f32x4.extract_lane(c, 0), f32x4.extract_lane(c, 1)), f32x4.extract_lane(c, 2))
}
// @ts-ignore: decorator
@inline function sat(c: v128): f32 {
  return greatest(c) - least(c)
}

function clipColour(c: v128): v128 {
  const l = lum(c),
    n = least(c),
    x = greatest(c),
    L = f32x4.splat(l)
  if (n < 0) c = f32x4.add(L, f32x4.mul(f32x4.sub(c, L), f32x4.splat(l / (l - n))))
  if (x > 1) c = f32x4.add(L, f32x4.mul(f32x4.sub(c, L), f32x4.splat((1 - l) / (x - l))))
  return c
}
function setLum(c: v128, l: f32): v128 {
  return clipColour(f32x4.add(c, f32x4.splat(l - lum(c))))
}
/** The colour's channels stretched to a saturation, the least at 0. */
function setSat(c: v128, s: f32): v128 {
  const n = least(c),
    range = greatest(c) - n
  if (range <= 0) return f32x4.splat(0)
  return f32x4.mul(f32x4.sub(c, f32x4.splat(n)), f32x4.splat(s / range))
}

function hardLight(b: v128, s: v128): v128 {
  const one = f32x4.splat(1),
    two = f32x4.splat(2)
  const multiply = f32x4.mul(b, f32x4.mul(two, s)),
    t = f32x4.sub(f32x4.mul(two, s), one),
    screen = f32x4.sub(f32x4.add(b, t), f32x4.mul(b, t))
  return v128.bitselect(multiply, screen, f32x4.le(s, f32x4.splat(0.5)))
}

/** B(cb, cs): the sixteen blend modes, in the order of the standard. */
// @ts-ignore: decorator
@inline export function blend(mode: i32, b: v128, s: v128): v128 {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    two = f32x4.splat(2)
  switch (mode) {
    case 1:
      return f32x4.mul(b, s)
    case 2:
      return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s))
    case 3:
      return hardLight(s, b)
    case 4:
      return f32x4.min(b, s)
    case 5:
      return f32x4.max(b, s)
    case 6: {
      // colour dodge
      const value = f32x4.min(one, f32x4.div(b, f32x4.sub(one, s)))
      return v128.bitselect(zero, v128.bitselect(one, value, f32x4.ge(s, one)), f32x4.le(b, zero))
    }
    case 7: {
      // colour burn
      const value = f32x4.sub(one, f32x4.min(one, f32x4.div(f32x4.sub(one, b), s)))
      return v128.bitselect(one, v128.bitselect(zero, value, f32x4.le(s, zero)), f32x4.ge(b, one))
    }
    case 8:
      return hardLight(b, s)
    case 9: {
      // soft light
      const t = f32x4.sub(f32x4.mul(two, s), one)
      const dark = f32x4.add(b, f32x4.mul(t, f32x4.mul(b, f32x4.sub(one, b))))
      const low = f32x4.mul(
        f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12)), b), f32x4.splat(4)),
        b,
      )
      const d = v128.bitselect(low, f32x4.sqrt(f32x4.max(zero, b)), f32x4.le(b, f32x4.splat(0.25)))
      return v128.bitselect(dark, f32x4.add(b, f32x4.mul(t, f32x4.sub(d, b))), f32x4.le(s, f32x4.splat(0.5)))
    }
    case 10:
      return f32x4.abs(f32x4.sub(b, s))
    case 11:
      return f32x4.sub(f32x4.add(b, s), f32x4.mul(two, f32x4.mul(b, s)))
    case 12:
      return setLum(setSat(s, sat(b)), lum(b))
    case 13:
      return setLum(setSat(b, sat(s)), lum(b))
    case 14:
      return setLum(s, lum(b))
    case 15:
      return setLum(b, lum(s))
    default:
      return s
  }
}
