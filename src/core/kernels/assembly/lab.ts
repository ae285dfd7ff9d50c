// CIELAB of sRGB words, D50 white.
// Sources: CIE 15:2004; matrix sRGB → XYZ D50 as in CSS Color Module Level 4; cube roots by Halley's method from a third of the exponent.

// Rows divided by the white point, so that white gives 1, 1, 1; the same as in colour/lab.ts.
const XR: f32 = 0.4360657468 / 0.9642956764,
  XG: f32 = 0.3851514688 / 0.9642956764,
  XB: f32 = 0.1430784519 / 0.9642956764
const YR: f32 = 0.2224931757,
  YG: f32 = 0.7168870538,
  YB: f32 = 0.0606197705
const ZR: f32 = 0.0139239044 / 0.8251046025,
  ZG: f32 = 0.0970812966 / 0.8251046025,
  ZB: f32 = 0.7140993567 / 0.8251046025
const EPSILON: f32 = 216.0 / 24389.0,
  KAPPA: f32 = 24389.0 / 27.0

// @ts-ignore: decorator
@inline function mixed(r: v128, g: v128, b: v128, red: f32, green: f32, blue: f32): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(red)), f32x4.mul(g, f32x4.splat(green))),
    f32x4.mul(b, f32x4.splat(blue)),
  )
}

// @ts-ignore: decorator
@inline function nearer(root: v128, t: v128): v128 {
  const cube = f32x4.mul(root, f32x4.mul(root, root)),
    sum = f32x4.add(cube, t)
  return f32x4.mul(root, f32x4.div(f32x4.add(sum, t), f32x4.add(sum, cube)))
}

/** The compressing curve: the cube root, straight near black. */
// @ts-ignore: decorator
@inline function compressed(t: v128): v128 {
  const first = i32x4.add(
    i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.convert_i32x4_s(t), f32x4.splat(1.0 / 3.0))),
    i32x4.splat(709921077),
  )
  const straight = f32x4.mul(f32x4.add(f32x4.mul(t, f32x4.splat(KAPPA)), f32x4.splat(16)), f32x4.splat(1.0 / 116.0))
  return v128.bitselect(nearer(nearer(first, t), t), straight, f32x4.gt(t, f32x4.splat(EPSILON)))
}

// @ts-ignore: decorator
@inline function linearOf(words: v128, shift: i32, table: usize): v128 {
  const at = i32x4.shl(v128.and(i32x4.shr_u(words, shift), i32x4.splat(255)), 2)
  let out = v128.load32_zero(table + i32x4.extract_lane(at, 0))
  out = v128.load32_lane(table + i32x4.extract_lane(at, 1), out, 1)
  out = v128.load32_lane(table + i32x4.extract_lane(at, 2), out, 2)
  return v128.load32_lane(table + i32x4.extract_lane(at, 3), out, 3)
}

/** L*, a* and b* of words (red in the low byte), three planes of `plane` bytes. `linear`: f32 for each byte. Whole fours are read and written. */
export function labRow(words: usize, to: usize, plane: usize, count: i32, linear: usize): void {
  for (let i: i32 = 0; i < count; i += 4, words += 16, to += 16) {
    const w = v128.load(words),
      r = linearOf(w, 0, linear),
      g = linearOf(w, 8, linear),
      b = linearOf(w, 16, linear)
    const x = compressed(mixed(r, g, b, XR, XG, XB)),
      y = compressed(mixed(r, g, b, YR, YG, YB)),
      z = compressed(mixed(r, g, b, ZR, ZG, ZB))
    v128.store(to, f32x4.sub(f32x4.mul(y, f32x4.splat(116)), f32x4.splat(16)))
    v128.store(to + plane, f32x4.mul(f32x4.splat(500), f32x4.sub(x, y)))
    v128.store(to + 2 * plane, f32x4.mul(f32x4.splat(200), f32x4.sub(y, z)))
  }
}
