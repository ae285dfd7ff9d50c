// Compositing rows of premultiplied RGBA in floating point, colour and alpha 0-1. Formulas: W3C Compositing and Blending Level 1.

import { blend } from './blend'

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
    // What is as good as nothing has no colour: it would be what rounding left of it.
    if (!(alpha * 255 >= 0.5)) {
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
