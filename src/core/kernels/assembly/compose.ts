// Compositing rows of premultiplied RGBA in floating point, colour and alpha 0-1. Formulas: W3C Compositing and Blending Level 1.

// @ts-ignore: decorator
@inline const BYTE: f32 = <f32>(1.0 / 255.0)

/** RGBA bytes, straight alpha, to premultiplied floats; `table` 0, or 256 floats that each colour byte becomes first. */
export function unpackRow(from: usize, to: usize, count: u32, opaque: bool, table: usize): void {
  for (let i: u32 = 0; i < count; i++, from += 4, to += 16) {
    const word = load<u32>(from)
    const alpha: f32 = opaque ? 1 : <f32>(word >> 24) * BYTE
    let c: v128
    if (table) {
      c = f32x4(
        load<f32>(table + <usize>((word & 255) << 2)),
        load<f32>(table + <usize>(((word >> 8) & 255) << 2)),
        load<f32>(table + <usize>(((word >> 16) & 255) << 2)),
        1,
      )
    } else {
      const wide = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(i32x4.splat(word)))
      c = f32x4.replace_lane(f32x4.mul(f32x4.convert_i32x4_u(wide), f32x4.splat(BYTE)), 3, 1)
    }
    v128.store(to, f32x4.mul(c, f32x4.splat(alpha)))
  }
}

/** Premultiplied floats to RGBA bytes, straight alpha, rounded once; `table` 0, or the bytes of `steps` + 1 values of the root of linear light. */
export function packRow(from: usize, to: usize, count: u32, table: usize, steps: f32): void {
  const zero = f32x4.splat(0),
    most = f32x4.splat(255),
    half = f32x4.splat(0.5)
  for (let i: u32 = 0; i < count; i++, from += 16, to += 4) {
    const p = v128.load(from),
      alpha = f32x4.extract_lane(p, 3)
    if (alpha <= 0) {
      store<u32>(to, 0)
      continue
    }
    const a = min<f32>(alpha, 1),
      c = alpha === 1 ? p : f32x4.mul(p, f32x4.splat(1 / alpha))
    if (table) {
      const r = f32x4.convert_i32x4_u(
        i32x4.trunc_sat_f32x4_u(
          f32x4.add(f32x4.mul(f32x4.sqrt(f32x4.max(zero, f32x4.min(c, f32x4.splat(1)))), f32x4.splat(steps)), half),
        ),
      )
      store<u32>(
        to,
        (<u32>load<u8>(table + <usize>f32x4.extract_lane(r, 0))) |
          ((<u32>load<u8>(table + <usize>f32x4.extract_lane(r, 1))) << 8) |
          ((<u32>load<u8>(table + <usize>f32x4.extract_lane(r, 2))) << 16) |
          ((<u32>(a * 255 + 0.5)) << 24),
      )
      continue
    }
    const scaled = f32x4.replace_lane(f32x4.mul(c, most), 3, a * 255)
    const whole = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.max(zero, f32x4.min(scaled, most)), half))
    const narrow = i16x8.narrow_i32x4_u(whole, whole)
    store<u32>(to, i32x4.extract_lane(i8x16.narrow_i16x8_u(narrow, narrow), 0))
  }
}

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
function blend(mode: i32, b: v128, s: v128): v128 {
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

// @ts-ignore: decorator
@inline function sourceShare(operator: i32, backdrop: f32): f32 {
  // Fa: clear, copy, destination, over, destination-over, in, destination-in, out, destination-out, atop, destination-atop, xor, lighter
  if (operator === 3 || operator === 1 || operator === 12 || operator === 13) return 1
  if (operator === 9 || operator === 5) return backdrop
  if (operator === 4 || operator === 7 || operator === 10 || operator === 11) return 1 - backdrop
  return 0
}
// @ts-ignore: decorator
@inline function backdropShare(operator: i32, source: f32, backdrop: f32): f32 {
  if (operator === 13) return backdrop > 0 ? min<f32>(1, (1 - source) / backdrop) : 0 // disjoint over (X Rendering Extension)
  if (operator === 3 || operator === 9 || operator === 8 || operator === 11) return 1 - source
  if (operator === 2 || operator === 4 || operator === 12) return 1
  if (operator === 6 || operator === 10) return source
  return 0
}

/** Source over, the one that is used most. */
function overRow(backdrop: usize, source: usize, coverage: usize, opacity: f32, count: u32): void {
  const one = f32x4.splat(1)
  for (let i: u32 = 0; i < count; i++, backdrop += 16, source += 16) {
    const share: f32 = coverage ? opacity * load<f32>(coverage + <usize>(i << 2)) : opacity
    if (share <= 0) continue
    const s = f32x4.mul(v128.load(source), f32x4.splat(share))
    v128.store(
      backdrop,
      f32x4.add(s, f32x4.mul(v128.load(backdrop), f32x4.sub(one, v128.shuffle<f32>(s, s, 3, 3, 3, 3)))),
    )
  }
}

/**
 * Composites `source` (premultiplied, times `opacity`, times `coverage` where that is not 0: a float 0-1 for each pixel) onto `backdrop`, in place.
 * With operators that also act where there is no source, the result is mixed in by coverage and opacity, as a clip would.
 */
export function compositeRow(
  backdrop: usize,
  source: usize,
  coverage: usize,
  opacity: f32,
  count: u32,
  mode: i32,
  operator: i32,
): void {
  if (mode === 0 && operator === 3) {
    overRow(backdrop, source, coverage, opacity, count)
    return
  }
  const clips = operator < 3 || operator === 5 || operator === 6 || operator === 7 || operator === 10
  for (let i: u32 = 0; i < count; i++, backdrop += 16, source += 16) {
    const share: f32 = coverage ? opacity * load<f32>(coverage + <usize>(i << 2)) : opacity
    if (share <= 0) continue
    const raw = v128.load(source),
      s = clips ? raw : f32x4.mul(raw, f32x4.splat(share))
    const as = f32x4.extract_lane(s, 3)
    if (as <= 0 && !clips) continue
    const b = v128.load(backdrop),
      ab = f32x4.extract_lane(b, 3)
    let mixed = s
    if (mode !== 0 && ab > 0 && as > 0) {
      // Cs = (1 − αb)·Cs + αb·B(Cb, Cs)
      if (mode === 1 && operator === 3) {
        // Multiplied colours need not be made straight: αs·αb·B is their product.
        v128.store(
          backdrop,
          f32x4.add(f32x4.mul(s, b), f32x4.add(f32x4.mul(s, f32x4.splat(1 - ab)), f32x4.mul(b, f32x4.splat(1 - as)))),
        )
        continue
      }
      const straight = blend(mode, f32x4.mul(b, f32x4.splat(1 / ab)), f32x4.mul(s, f32x4.splat(1 / as)))
      mixed = f32x4.replace_lane(
        f32x4.add(f32x4.mul(s, f32x4.splat(1 - ab)), f32x4.mul(straight, f32x4.splat(as * ab))),
        3,
        as,
      )
    }
    let out = f32x4.add(
      f32x4.mul(mixed, f32x4.splat(sourceShare(operator, ab))),
      f32x4.mul(b, f32x4.splat(backdropShare(operator, as, ab))),
    )
    if (operator === 12) out = f32x4.min(out, f32x4.splat(1))
    if (clips && share < 1) out = f32x4.add(b, f32x4.mul(f32x4.sub(out, b), f32x4.splat(share)))
    v128.store(backdrop, out)
  }
}

/** Goes from `before` to `after` by opacity times coverage; writes `before`. */
export function mixRow(before: usize, after: usize, coverage: usize, opacity: f32, count: u32): void {
  for (let i: u32 = 0; i < count; i++, before += 16, after += 16) {
    const share: f32 = coverage ? opacity * load<f32>(coverage + <usize>(i << 2)) : opacity
    if (share <= 0) continue
    const b = v128.load(before)
    v128.store(before, f32x4.add(b, f32x4.mul(f32x4.sub(v128.load(after), b), f32x4.splat(share))))
  }
}

/** Coverage bytes to floats: gain · coverage + lift, with coverage 0-1. False when all of them are 0. */
export function coverRow(bytes: usize, to: usize, count: u32, gain: f32, lift: f32): bool {
  let some: u32 = 0
  const scale: f32 = gain * BYTE
  for (let i: u32 = 0; i < count; i++, bytes++, to += 4) {
    const v = <u32>load<u8>(bytes)
    some |= v
    store<f32>(to, scale * <f32>v + lift)
  }
  return some !== 0 || lift > 0
}

/** values · gain + lift, in place. */
export function scaleFloats(at: usize, count: u32, gain: f32, lift: f32): void {
  for (let i: u32 = 0; i < count; i++, at += 4) store<f32>(at, load<f32>(at) * gain + lift)
}

/**
 * Between premultiplied and straight, and between encoded and linear: colours are made straight (`divide`), sent through the table (steps + 1 floats; by the
 * root of the value where `rooted`) unless it is 0, and premultiplied again (`multiply`).
 */
export function convertRow(
  source: usize,
  target: usize,
  count: u32,
  divide: bool,
  multiply: bool,
  table: usize,
  steps: f32,
  rooted: bool,
): void {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    size = f32x4.splat(steps),
    last = i32x4.splat(<i32>steps - 1)
  for (let i: u32 = 0; i < count; i++, source += 16, target += 16) {
    let p = v128.load(source)
    const alpha = f32x4.extract_lane(p, 3)
    if (divide && alpha !== 1) {
      if (alpha <= 0) {
        v128.store(target, zero)
        continue
      }
      p = f32x4.mul(p, f32x4.splat(1 / alpha))
    }
    if (table) {
      let place = f32x4.max(zero, f32x4.min(one, p))
      if (rooted) place = f32x4.sqrt(place)
      const at = f32x4.mul(place, size),
        whole = i32x4.min_s(i32x4.trunc_sat_f32x4_s(at), last),
        part = f32x4.sub(at, f32x4.convert_i32x4_s(whole))
      const r = table + <usize>(i32x4.extract_lane(whole, 0) << 2),
        g = table + <usize>(i32x4.extract_lane(whole, 1) << 2),
        b = table + <usize>(i32x4.extract_lane(whole, 2) << 2)
      const low = f32x4(load<f32>(r), load<f32>(g), load<f32>(b), 1)
      p = f32x4.add(low, f32x4.mul(f32x4.sub(f32x4(load<f32>(r, 4), load<f32>(g, 4), load<f32>(b, 4), 1), low), part))
    }
    if (multiply && alpha !== 1) p = f32x4.mul(p, f32x4.splat(alpha))
    v128.store(target, f32x4.replace_lane(p, 3, alpha))
  }
}

// @ts-ignore: decorator
@inline function clamped(c: v128, alpha: f32): v128 {
  return f32x4.replace_lane(f32x4.max(f32x4.splat(0), f32x4.min(f32x4.splat(1), c)), 3, alpha)
}

/** Straight colours times a matrix, its rows one after the other; clamped to 0-1, alpha stays. In place. */
export function matrixRow(
  at: usize,
  count: u32,
  m0: f32,
  m1: f32,
  m2: f32,
  m3: f32,
  m4: f32,
  m5: f32,
  m6: f32,
  m7: f32,
  m8: f32,
): void {
  const red = f32x4(m0, m3, m6, 0),
    green = f32x4(m1, m4, m7, 0),
    blue = f32x4(m2, m5, m8, 0)
  for (let i: u32 = 0; i < count; i++, at += 16) {
    const p = v128.load(at)
    const out = f32x4.add(
      f32x4.add(
        f32x4.mul(v128.shuffle<f32>(p, p, 0, 0, 0, 0), red),
        f32x4.mul(v128.shuffle<f32>(p, p, 1, 1, 1, 1), green),
      ),
      f32x4.mul(v128.shuffle<f32>(p, p, 2, 2, 2, 2), blue),
    )
    v128.store(at, clamped(out, f32x4.extract_lane(p, 3)))
  }
}

/** Cube roots within 1e-6: an estimate by the exponents, and Newton's steps. */
// @ts-ignore: decorator
@inline function cubeRoots(v: v128): v128 {
  const x = f32x4.max(f32x4.abs(v), f32x4.splat(1e-12)),
    third = f32x4.splat(<f32>(1.0 / 3.0)),
    two = f32x4.splat(2)
  let t = i32x4.add(i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.convert_i32x4_s(x), third)), i32x4.splat(709921077))
  t = f32x4.mul(f32x4.add(f32x4.mul(two, t), f32x4.div(x, f32x4.mul(t, t))), third)
  t = f32x4.mul(f32x4.add(f32x4.mul(two, t), f32x4.div(x, f32x4.mul(t, t))), third)
  t = f32x4.mul(f32x4.add(f32x4.mul(two, t), f32x4.div(x, f32x4.mul(t, t))), third)
  return v128.bitselect(f32x4.neg(t), t, f32x4.lt(v, f32x4.splat(0)))
}
/** a · r + b · g + c · s, four pixels at once. */
// @ts-ignore: decorator
@inline function weighed(r: v128, g: v128, s: v128, a: f32, b: f32, c: f32): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(r, f32x4.splat(a)), f32x4.mul(g, f32x4.splat(b))), f32x4.mul(s, f32x4.splat(c)))
}
// @ts-ignore: decorator
@inline function cubed(v: v128): v128 {
  return f32x4.mul(v, f32x4.mul(v, v))
}
// @ts-ignore: decorator
@inline function within(v: v128): v128 {
  return f32x4.max(f32x4.splat(0), f32x4.min(f32x4.splat(1), v))
}
/** Four pixels to red, green, blue and alpha of the four, and back. */
let column0: v128 = i32x4.splat(0),
  column1: v128 = i32x4.splat(0),
  column2: v128 = i32x4.splat(0),
  column3: v128 = i32x4.splat(0)
// @ts-ignore: decorator
@inline function transpose(p0: v128, p1: v128, p2: v128, p3: v128): void {
  const a = v128.shuffle<f32>(p0, p1, 0, 4, 1, 5),
    b = v128.shuffle<f32>(p2, p3, 0, 4, 1, 5),
    c = v128.shuffle<f32>(p0, p1, 2, 6, 3, 7),
    d = v128.shuffle<f32>(p2, p3, 2, 6, 3, 7)
  column0 = v128.shuffle<f32>(a, b, 0, 1, 4, 5)
  column1 = v128.shuffle<f32>(a, b, 2, 3, 6, 7)
  column2 = v128.shuffle<f32>(c, d, 0, 1, 4, 5)
  column3 = v128.shuffle<f32>(c, d, 2, 3, 6, 7)
}

/** For the four hues (A, B in OKLab): how colours there are turned and scaled, as a cosine and a sine, and lifted. */
let hueCos: v128 = i32x4.splat(0),
  hueSin: v128 = i32x4.splat(0),
  hueLift: v128 = i32x4.splat(0)
function lookUpHues(
  A: v128,
  B: v128,
  turn: f32,
  scale: f32,
  light: f32,
  byHue: usize,
  grey: f32,
  lanes: StaticArray<f32>,
): void {
  const DEGREES: f32 = <f32>(180.0 / 3.141592653589793),
    at = changetype<usize>(lanes)
  v128.store(at, A)
  v128.store(at, B, 16)
  for (let k: usize = 0; k < 4; k++) {
    const place = at + (k << 2),
      a = load<f32>(place),
      b = load<f32>(place, 16)
    const hue = Mathf.atan2(b, a) * DEGREES,
      degree = <u32>((hue < 0 ? hue + 360 : hue) + 0.5),
      own = byHue + <usize>(degree * 12)
    const chroma = sqrt<f32>(a * a + b * b),
      share = chroma < grey ? chroma / grey : 1
    const by = turn + share * load<f32>(own),
      factor = scale * (1 + share * load<f32>(own, 4))
    store<f32>(place, Mathf.cos(by) * factor)
    store<f32>(place, Mathf.sin(by) * factor, 16)
    store<f32>(place, light + share * load<f32>(own, 8), 32)
  }
  hueCos = v128.load(at)
  hueSin = v128.load(at, 16)
  hueLift = v128.load(at, 32)
}
const LANES = new StaticArray<f32>(12)

/**
 * Straight linear colours turned (radians) and scaled in OKLab's plane of hues, their lightness moved by `light` towards white (above 0) or black. `byHue` 0, or for
 * each degree of hue, 0 to 360, three floats: a further turn, a further factor less 1, a further lightness; they fade out for colours below the chroma `grey`.
 * In place; clamped to 0-1, alpha stays. Source: Ottosson, "A perceptual color space for image processing" (2020), with the matrices as revised there in 2021.
 */
export function turnHues(at: usize, count: u32, turn: f32, scale: f32, light: f32, byHue: usize, grey: f32): void {
  const one = f32x4.splat(1),
    zero = f32x4.splat(0)
  hueCos = f32x4.splat(Mathf.cos(turn) * scale)
  hueSin = f32x4.splat(Mathf.sin(turn) * scale)
  hueLift = f32x4.splat(light)
  for (let i: u32 = 0; i < count; i += 4, at += 64) {
    const left = count - i,
      at1 = left > 1 ? at + 16 : at,
      at2 = left > 2 ? at + 32 : at,
      at3 = left > 3 ? at + 48 : at
    transpose(v128.load(at), v128.load(at1), v128.load(at2), v128.load(at3))
    const alpha = column3,
      l = cubeRoots(weighed(column0, column1, column2, 0.4122214708, 0.5363325363, 0.0514459929)),
      m = cubeRoots(weighed(column0, column1, column2, 0.2119034982, 0.6806995451, 0.1073969566)),
      s = cubeRoots(weighed(column0, column1, column2, 0.0883024619, 0.2817188376, 0.6299787005))
    const A = weighed(l, m, s, 1.9779984951, -2.428592205, 0.4505937099),
      B = weighed(l, m, s, 0.0259040371, 0.7827717662, -0.808675766)
    let L = weighed(l, m, s, 0.2104542553, 0.793617785, -0.0040720468)
    if (byHue) lookUpHues(A, B, turn, scale, light, byHue, grey, LANES)
    // Above 0 towards white, below towards black.
    L = v128.bitselect(
      f32x4.add(L, f32x4.mul(hueLift, f32x4.sub(one, L))),
      f32x4.mul(L, f32x4.add(one, hueLift)),
      f32x4.gt(hueLift, zero),
    )
    const a = f32x4.sub(f32x4.mul(A, hueCos), f32x4.mul(B, hueSin)),
      b = f32x4.add(f32x4.mul(A, hueSin), f32x4.mul(B, hueCos))
    const l3 = cubed(weighed(L, a, b, 1, 0.3963377774, 0.2158037573)),
      m3 = cubed(weighed(L, a, b, 1, -0.1055613458, -0.0638541728)),
      s3 = cubed(weighed(L, a, b, 1, -0.0894841775, -1.291485548))
    transpose(
      within(weighed(l3, m3, s3, 4.0767416621, -3.3077115913, 0.2309699292)),
      within(weighed(l3, m3, s3, -1.2684380046, 2.6097574011, -0.3413193965)),
      within(weighed(l3, m3, s3, -0.0041960863, -0.7034186147, 1.707614701)),
      alpha,
    )
    if (left > 3) v128.store(at3, column3)
    if (left > 2) v128.store(at2, column2)
    if (left > 1) v128.store(at1, column1)
    v128.store(at, column0)
  }
}

/** Premultiplied pixels with red, green and blue sent through a table each (steps + 1 floats; by the root of the value where `rooted`). */
export function throughTables(
  source: usize,
  target: usize,
  count: u32,
  red: usize,
  green: usize,
  blue: usize,
  steps: f32,
  rooted: bool,
): void {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    size = f32x4.splat(steps),
    last = i32x4.splat(<i32>steps - 1)
  for (let i: u32 = 0; i < count; i++, source += 16, target += 16) {
    const p = v128.load(source),
      alpha = f32x4.extract_lane(p, 3)
    if (alpha <= 0) {
      v128.store(target, zero)
      continue
    }
    let c = f32x4.max(zero, f32x4.min(one, alpha === 1 ? p : f32x4.mul(p, f32x4.splat(1 / alpha))))
    if (rooted) c = f32x4.sqrt(c)
    const at = f32x4.mul(c, size),
      whole = i32x4.min_s(i32x4.trunc_sat_f32x4_s(at), last),
      part = f32x4.sub(at, f32x4.convert_i32x4_s(whole))
    const r = red + <usize>(i32x4.extract_lane(whole, 0) << 2),
      g = green + <usize>(i32x4.extract_lane(whole, 1) << 2),
      b = blue + <usize>(i32x4.extract_lane(whole, 2) << 2)
    const low = f32x4(load<f32>(r), load<f32>(g), load<f32>(b), 1),
      high = f32x4(load<f32>(r, 4), load<f32>(g, 4), load<f32>(b, 4), 1)
    const out = f32x4.add(low, f32x4.mul(f32x4.sub(high, low), part))
    v128.store(target, f32x4.replace_lane(alpha === 1 ? out : f32x4.mul(out, f32x4.splat(alpha)), 3, alpha))
  }
}

/** A row of (width + 2 · radius) pixels of four floats, weighed by one side of a symmetric kernel, to a row of `width`. `stride`: bytes from one tap to the next. */
export function weighRow(from: usize, to: usize, width: u32, radius: u32, stride: usize, weights: usize): void {
  const middle = from + <usize>radius * stride
  for (let x: u32 = 0; x < width; x++) {
    const at = middle + <usize>(x << 4)
    let sum = f32x4.mul(v128.load(at), f32x4.splat(load<f32>(weights)))
    for (let k: u32 = 1; k <= radius; k++) {
      const far = <usize>k * stride
      sum = f32x4.add(
        sum,
        f32x4.mul(
          f32x4.add(v128.load(at - far), v128.load(at + far)),
          f32x4.splat(load<f32>(weights + <usize>(k << 2))),
        ),
      )
    }
    v128.store(to + <usize>(x << 4), sum)
  }
}

/** Running sums along a row: entry n is the sum of the n pixels before it (count + 1 entries). */
export function sumRow(from: usize, to: usize, count: u32): void {
  let sum = f32x4.splat(0)
  v128.store(to, sum)
  for (let i: u32 = 0; i < count; i++) {
    sum = f32x4.add(sum, v128.load(from + <usize>(i << 4)))
    v128.store(to + <usize>((i + 1) << 4), sum)
  }
}

/**
 * One row of a disc blur: for each of 2 · radius + 1 rows of running sums (`sums`, `stride` bytes apart), the pixels within `reaches[row]` (whole) on either side
 * and a share `parts[row]` of the ones beyond. `scale` is one over the disc's area. The sums begin `radius` + 1 pixels left of the row.
 */
export function discRow(
  sums: usize,
  stride: usize,
  to: usize,
  width: u32,
  radius: u32,
  reaches: usize,
  parts: usize,
  scale: f32,
): void {
  const rows: u32 = 2 * radius + 1
  for (let x: u32 = 0; x < width; x++) {
    let total = f32x4.splat(0)
    let row = sums + ((<usize>(x + radius + 1)) << 4)
    for (let k: u32 = 0; k < rows; k++, row += stride) {
      const reach = load<i32>(reaches + <usize>(k << 2))
      if (reach < 0) continue
      const left = row - ((<usize>reach) << 4),
        right = row + ((<usize>(reach + 1)) << 4)
      const low = v128.load(left),
        high = v128.load(right)
      const part = load<f32>(parts + <usize>(k << 2))
      const beyond = f32x4.add(f32x4.sub(low, v128.load(left - 16)), f32x4.sub(v128.load(right + 16), high))
      total = f32x4.add(total, f32x4.add(f32x4.sub(high, low), f32x4.mul(beyond, f32x4.splat(part))))
    }
    v128.store(to + <usize>(x << 4), f32x4.mul(total, f32x4.splat(scale)))
  }
}

/**
 * A row of a reduced grid brought back by the cubic B-spline. The four weights of each column stand in `weights` (4 floats a column), the first of its
 * cells in `cells` (one i32 a column); `rowWeights` are the four rows' own. Rows lie `stride` bytes apart.
 */
export function splineRow(
  from: usize,
  stride: usize,
  to: usize,
  width: u32,
  cells: usize,
  weights: usize,
  rowWeights: usize,
): void {
  for (let x: u32 = 0; x < width; x++) {
    let at = from + ((<usize>load<i32>(cells + <usize>(x << 2))) << 4)
    const w = weights + <usize>(x << 4)
    const a = f32x4.splat(load<f32>(w)),
      b = f32x4.splat(load<f32>(w, 4)),
      c = f32x4.splat(load<f32>(w, 8)),
      d = f32x4.splat(load<f32>(w, 12))
    let sum = f32x4.splat(0)
    for (let k: u32 = 0; k < 4; k++, at += stride) {
      const along = f32x4.add(
        f32x4.add(f32x4.mul(a, v128.load(at)), f32x4.mul(b, v128.load(at, 16))),
        f32x4.add(f32x4.mul(c, v128.load(at, 32)), f32x4.mul(d, v128.load(at, 48))),
      )
      sum = f32x4.add(sum, f32x4.mul(along, f32x4.splat(load<f32>(rowWeights + <usize>(k << 2)))))
    }
    v128.store(to + <usize>(x << 4), sum)
  }
}
