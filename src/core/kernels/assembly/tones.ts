// Rows of straight or premultiplied RGBA in floating point through a matrix, through tables, or turned in a plane of hues.

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

/** One channel without a share of the old air's light (its colour `was`), with a share of the new, 0-1. What is no number is 0. */
// @ts-ignore: decorator
@inline function throughAir(own: v128, was: v128, before: v128, keeps: v128, air: v128, after: v128): v128 {
  const light = f32x4.add(f32x4.mul(f32x4.sub(own, f32x4.mul(was, before)), keeps), f32x4.mul(air, after))
  return f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), light))
}

/**
 * Straight linear colours seen through other air. `table`: for each pixel the darkest around it (count floats), `taken` of which is the old air's light,
 * `had` at most, and then how much of the new air's is laid in beside what stays (`stays` of what there was). No more is taken than the pixel has in its
 * darkest channel; at least `least` of its own is thought to be left. In place; clamped to 0-1, alpha stays.
 */
export function hazeRow(
  at: usize,
  count: u32,
  table: usize,
  taken: f32,
  had: f32,
  stays: f32,
  least: f32,
  red: f32,
  green: f32,
  blue: f32,
  airRed: f32,
  airGreen: f32,
  airBlue: f32,
): void {
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    wasRed = f32x4.splat(red),
    wasGreen = f32x4.splat(green),
    wasBlue = f32x4.splat(blue)
  for (let i: u32 = 0; i < count; i += 4, at += 64, table += 16) {
    const left = count - i,
      at1 = left > 1 ? at + 16 : at,
      at2 = left > 2 ? at + 32 : at,
      at3 = left > 3 ? at + 48 : at
    transpose(v128.load(at), v128.load(at1), v128.load(at2), v128.load(at3))
    const alpha = column3,
      darkest = f32x4.min(
        f32x4.div(column0, wasRed),
        f32x4.min(f32x4.div(column1, wasGreen), f32x4.div(column2, wasBlue)),
      ),
      around = f32x4.min(f32x4.splat(had), f32x4.mul(v128.load(table), f32x4.splat(taken))),
      before = f32x4.max(zero, f32x4.min(around, darkest)),
      laidIn = v128.load(table + ((<usize>count) << 2)),
      after = f32x4.min(one, f32x4.add(f32x4.mul(before, f32x4.splat(stays)), laidIn)),
      keeps = f32x4.div(f32x4.sub(one, after), f32x4.max(f32x4.splat(least), f32x4.sub(one, before)))
    transpose(
      throughAir(column0, wasRed, before, keeps, f32x4.splat(airRed), after),
      throughAir(column1, wasGreen, before, keeps, f32x4.splat(airGreen), after),
      throughAir(column2, wasBlue, before, keeps, f32x4.splat(airBlue), after),
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
