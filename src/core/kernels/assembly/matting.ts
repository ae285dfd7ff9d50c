// The matting Laplacian of a block (Levin, Lischinski and Weiss 2008, equation 12) and conjugate gradients on it. The block is a padded
// grid: two px all round that belong to nothing. Unknown px are nodes, numbered row by row; a run is three i32: its first px in the
// grid, its length, its first node, a multiple of four. Weights, floats for the 5 × 5 px around each node, lie by groups of four nodes:
// 25 times four of them, so that what is read together lies together.

const SIDE: i32 = 5
/** From a px to the next one in a group's weights, and from a group to the next, bytes. */
const SLOT: usize = 16,
  GROUP: usize = 25 * SLOT
/** The same before they are grouped: from a node to the next, and from a row of the 5 × 5 px to the next, bytes. */
const NODE: usize = 100,
  ROW: usize = 20

// @ts-ignore: decorator
@inline function at32(base: usize, i: i32): usize {
  return base + ((<usize>i) << 2)
}

/** The first two of four. */
// @ts-ignore: decorator
@inline function firstTwo(row: v128): v128 {
  return f64x2.promote_low_f32x4(row)
}
/** The third of four, and zero. */
// @ts-ignore: decorator
@inline function third(row: v128): v128 {
  return v128.and(f64x2.promote_low_f32x4(v128.shuffle<i64>(row, row, 1, 1)), i64x2(-1, 0))
}
/** Two, one, and zero. */
// @ts-ignore: decorator
@inline function threeAnd0(two: v128, one: v128): v128 {
  return v128.shuffle<i64>(f32x4.demote_f64x2_zero(two), f32x4.demote_f64x2_zero(one), 0, 2)
}
// @ts-ignore: decorator
@inline function sumOfBoth(pair: v128): f64 {
  return f64x2.extract_lane(pair, 0) + f64x2.extract_lane(pair, 1)
}
/** Of one channel of a window beside its mean: three rows, the first two px of each and the third. */
const ROWS: usize = 6 * 16

/** Puts a channel of a window beside its mean. */
function centre(colours: usize, step: usize, to: usize): void {
  const above = v128.load(colours),
    here = v128.load(colours + step),
    below = v128.load(colours + 2 * step),
    a = firstTwo(above),
    b = firstTwo(here),
    c = firstTwo(below),
    d = third(above),
    e = third(here),
    f = third(below)
  const mean = f64x2.splat(
    sumOfBoth(f64x2.add(f64x2.add(f64x2.add(a, b), c), f64x2.add(f64x2.add(d, e), f))) * (1.0 / 9.0),
  )
  v128.store(to, f64x2.sub(a, mean))
  v128.store(to, v128.and(f64x2.sub(d, mean), i64x2(-1, 0)), 16)
  v128.store(to, f64x2.sub(b, mean), 32)
  v128.store(to, v128.and(f64x2.sub(e, mean), i64x2(-1, 0)), 48)
  v128.store(to, f64x2.sub(c, mean), 64)
  v128.store(to, v128.and(f64x2.sub(f, mean), i64x2(-1, 0)), 80)
}

/** The sum of two channels' products. */
function together(one: usize, other: usize): f64 {
  let sum = f64x2.mul(v128.load(one), v128.load(other))
  for (let k: usize = 16; k < ROWS; k += 16) sum = f64x2.add(sum, f64x2.mul(v128.load(one + k), v128.load(other + k)))
  return sumOfBoth(sum)
}

/**
 * Adds the windows whose middles lie in one row, from px `from` on, save the 1 that each adds to what a px weighs for itself. `colours` are three planes of
 * `plane` bytes, `nodes` i32 (−1: known), `alpha` and `epsilon` floats; `weights` are 25 floats for each node, `right` one. `scratch` has room for 432 bytes.
 * A window's colours are made as if they varied by 1 each by itself (whitened, by the Cholesky decomposition of their covariance): what two px weigh for
 * each other is a product of what is small, the same for both, and floats are enough for it.
 */
export function addWindows(
  colours: usize,
  plane: usize,
  nodes: usize,
  alpha: usize,
  stride: i32,
  from: i32,
  count: i32,
  epsilon: usize,
  weights: usize,
  right: usize,
  scratch: usize,
): void {
  const ninth: f64 = 1.0 / 9.0,
    step = (<usize>stride) << 2,
    green = scratch + ROWS,
    blue = green + ROWS,
    white = blue + ROWS,
    thirds = f32x4.splat(1.0 / 3.0),
    minusNinth = f32x4(-1.0 / 9.0, -1.0 / 9.0, -1.0 / 9.0, 0),
    three = i32x4(-1, -1, -1, 0)
  for (let middle = from, end = from + count; middle < end; middle++) {
    const top = middle - stride - 1,
      corner = at32(nodes, top),
      openAbove = v128.and(i32x4.ge_s(v128.load(corner), i32x4.splat(0)), three),
      openHere = v128.and(i32x4.ge_s(v128.load(corner + step), i32x4.splat(0)), three),
      openBelow = v128.and(i32x4.ge_s(v128.load(corner + 2 * step), i32x4.splat(0)), three)
    if (!v128.any_true(v128.or(v128.or(openAbove, openHere), openBelow))) continue
    const all = i32x4.all_true(v128.or(v128.and(v128.and(openAbove, openHere), openBelow), v128.not(three))),
      place = at32(colours, top)
    centre(place, step, scratch)
    centre(place + plane, step, green)
    centre(place + 2 * plane, step, blue)
    const rest = <f64>load<f32>(at32(epsilon, middle)) * ninth,
      r = sqrt(together(scratch, scratch) * ninth + rest),
      onR = 1.0 / r,
      gr = together(scratch, green) * ninth * onR,
      br = together(scratch, blue) * ninth * onR,
      g = sqrt(together(green, green) * ninth + rest - gr * gr),
      onG = 1.0 / g,
      bg = (together(green, blue) * ninth - br * gr) * onG,
      onB = 1.0 / sqrt(together(blue, blue) * ninth + rest - br * br - bg * bg)
    for (let y: usize = 0; y < 3; y++) {
      const row = y * 32,
        r2 = f64x2.mul(v128.load(scratch + row), f64x2.splat(onR)),
        r1 = f64x2.mul(v128.load(scratch + row, 16), f64x2.splat(onR)),
        g2 = f64x2.mul(f64x2.sub(v128.load(green + row), f64x2.mul(f64x2.splat(gr), r2)), f64x2.splat(onG)),
        g1 = f64x2.mul(f64x2.sub(v128.load(green + row, 16), f64x2.mul(f64x2.splat(gr), r1)), f64x2.splat(onG)),
        b2 = f64x2.sub(
          v128.load(blue + row),
          f64x2.add(f64x2.mul(f64x2.splat(br), r2), f64x2.mul(f64x2.splat(bg), g2)),
        ),
        b1 = f64x2.sub(
          v128.load(blue + row, 16),
          f64x2.add(f64x2.mul(f64x2.splat(br), r1), f64x2.mul(f64x2.splat(bg), g1)),
        )
      v128.store(white + y * 16, f32x4.mul(threeAnd0(r2, r1), thirds))
      v128.store(white + y * 16, f32x4.mul(threeAnd0(g2, g1), thirds), 48)
      v128.store(
        white + y * 16,
        f32x4.mul(threeAnd0(f64x2.mul(b2, f64x2.splat(onB)), f64x2.mul(b1, f64x2.splat(onB))), thirds),
        96,
      )
    }
    const r0 = v128.load(white),
      r1 = v128.load(white, 16),
      r2 = v128.load(white, 32),
      g0 = v128.load(white, 48),
      g1 = v128.load(white, 64),
      g2 = v128.load(white, 80),
      b0 = v128.load(white, 96),
      b1 = v128.load(white, 112),
      b2 = v128.load(white, 128)
    for (
      let y: i32 = 0, i = corner, own = white, slot: usize = 2 * SIDE + 2;
      y < 3;
      y++, i += step, own += 16, slot -= SIDE
    )
      for (let x: usize = 0; x < 3; x++) {
        const node = load<i32>(i + 4 * x)
        if (node < 0) continue
        const r = v128.load32_splat(own + 4 * x),
          g = v128.load32_splat(own + 4 * x, 48),
          b = v128.load32_splat(own + 4 * x, 96),
          above = f32x4.sub(minusNinth, f32x4.add(f32x4.add(f32x4.mul(r, r0), f32x4.mul(g, g0)), f32x4.mul(b, b0))),
          here = f32x4.sub(minusNinth, f32x4.add(f32x4.add(f32x4.mul(r, r1), f32x4.mul(g, g1)), f32x4.mul(b, b1))),
          below = f32x4.sub(minusNinth, f32x4.add(f32x4.add(f32x4.mul(r, r2), f32x4.mul(g, g2)), f32x4.mul(b, b2))),
          to = weights + <usize>node * NODE + ((slot - x) << 2)
        if (all) {
          v128.store(to, f32x4.add(v128.load(to), above))
          v128.store(to, f32x4.add(v128.load(to, ROW), here), ROW)
          v128.store(to, f32x4.add(v128.load(to, 2 * ROW), below), 2 * ROW)
          continue
        }
        v128.store(to, f32x4.add(v128.load(to), v128.and(above, openAbove)))
        v128.store(to, f32x4.add(v128.load(to, ROW), v128.and(here, openHere)), ROW)
        v128.store(to, f32x4.add(v128.load(to, 2 * ROW), v128.and(below, openBelow)), 2 * ROW)
        const from = at32(alpha, top),
          known = f32x4.add(
            f32x4.add(
              f32x4.mul(v128.andnot(above, openAbove), v128.and(v128.load(from), three)),
              f32x4.mul(v128.andnot(here, openHere), v128.and(v128.load(from + step), three)),
            ),
            f32x4.mul(v128.andnot(below, openBelow), v128.and(v128.load(from + 2 * step), three)),
          ),
          sum = at32(right, node)
        store<f32>(
          sum,
          load<f32>(sum) - (f32x4.extract_lane(known, 0) + f32x4.extract_lane(known, 1) + f32x4.extract_lane(known, 2)),
        )
      }
  }
}

/** Turns weights that lie by nodes, 25 after each other, into weights by groups, in place. `scratch` has room for 400 bytes. */
export function groupNodes(weights: usize, nodes: i32, scratch: usize): void {
  for (let group: i32 = 0; group < nodes; group += 4, weights += GROUP) {
    memory.copy(scratch, weights, GROUP)
    for (let slot: usize = 0; slot < NODE; slot += 4)
      for (let k: usize = 0; k < 4; k++) store<f32>(weights + slot * 4 + k * 4, load<f32>(scratch + k * NODE + slot))
  }
}

/** q = A p for all nodes; p lies in the grid (known px are zero there), q by nodes. Returns p·q. */
export function multiplyNodes(runs: usize, count: i32, weights: usize, grid: usize, stride: i32, q: usize): f64 {
  let sum: f64 = 0
  for (let r: i32 = 0; r < count; r++, runs += 12) {
    const length = load<i32>(runs, 4),
      node = load<i32>(runs, 8)
    let corner = at32(grid, load<i32>(runs) - 2 * stride - 2),
      weight = weights + <usize>node * NODE,
      to = at32(q, node),
      i: i32 = 0
    const row = (<usize>stride) << 2,
      middle = (row << 1) + 8
    let part = f32x4.splat(0)
    for (; i + 4 <= length; i += 4, corner += 16, weight += GROUP, to += 16) {
      let total = f32x4.splat(0),
        w = weight,
        v = corner
      for (let y: i32 = 0; y < SIDE; y++, v += row) {
        total = f32x4.add(total, f32x4.mul(v128.load(w), v128.load(v)))
        w += SLOT
        total = f32x4.add(total, f32x4.mul(v128.load(w), v128.load(v, 4)))
        w += SLOT
        total = f32x4.add(total, f32x4.mul(v128.load(w), v128.load(v, 8)))
        w += SLOT
        total = f32x4.add(total, f32x4.mul(v128.load(w), v128.load(v, 12)))
        w += SLOT
        total = f32x4.add(total, f32x4.mul(v128.load(w), v128.load(v, 16)))
        w += SLOT
      }
      v128.store(to, total)
      part = f32x4.add(part, f32x4.mul(total, v128.load(corner + middle)))
    }
    sum +=
      <f64>f32x4.extract_lane(part, 0) +
      <f64>f32x4.extract_lane(part, 1) +
      <f64>f32x4.extract_lane(part, 2) +
      <f64>f32x4.extract_lane(part, 3)
    for (; i < length; i++, corner += 4, weight += 4, to += 4) {
      let total: f32 = 0,
        w = weight,
        v = corner
      for (let y: i32 = 0; y < SIDE; y++, v += row)
        for (let x: usize = 0; x < 20; x += 4, w += SLOT) total += load<f32>(w) * load<f32>(v + x)
      store<f32>(to, total)
      sum += <f64>(total * load<f32>(corner + middle))
    }
  }
  return sum
}

/** x += step · p (p in the grid), r −= step · q. Returns r·r/diagonal; `one` holds 1/diagonal. */
export function stepNodes(
  runs: usize,
  count: i32,
  grid: usize,
  x: usize,
  r: usize,
  q: usize,
  one: usize,
  step: f32,
): f64 {
  const steps = f32x4.splat(step)
  let sum: f64 = 0
  for (let k: i32 = 0; k < count; k++, runs += 12) {
    const length = load<i32>(runs, 4),
      node = load<i32>(runs, 8)
    let p = at32(grid, load<i32>(runs)),
      off = (<usize>node) << 2,
      i: i32 = 0
    let part = f32x4.splat(0)
    for (; i + 4 <= length; i += 4, p += 16, off += 16) {
      v128.store(x + off, f32x4.add(v128.load(x + off), f32x4.mul(steps, v128.load(p))))
      const left = f32x4.sub(v128.load(r + off), f32x4.mul(steps, v128.load(q + off)))
      v128.store(r + off, left)
      part = f32x4.add(part, f32x4.mul(f32x4.mul(left, left), v128.load(one + off)))
    }
    sum +=
      <f64>f32x4.extract_lane(part, 0) +
      <f64>f32x4.extract_lane(part, 1) +
      <f64>f32x4.extract_lane(part, 2) +
      <f64>f32x4.extract_lane(part, 3)
    for (; i < length; i++, p += 4, off += 4) {
      store<f32>(x + off, load<f32>(x + off) + step * load<f32>(p))
      const left = load<f32>(r + off) - step * load<f32>(q + off)
      store<f32>(r + off, left)
      sum += <f64>(left * left * load<f32>(one + off))
    }
  }
  return sum
}

/** p = r/diagonal + keep · p, p in the grid. */
export function turnNodes(runs: usize, count: i32, grid: usize, r: usize, one: usize, keep: f32): void {
  const kept = f32x4.splat(keep)
  for (let k: i32 = 0; k < count; k++, runs += 12) {
    const length = load<i32>(runs, 4),
      node = load<i32>(runs, 8)
    let p = at32(grid, load<i32>(runs)),
      off = (<usize>node) << 2,
      i: i32 = 0
    for (; i + 4 <= length; i += 4, p += 16, off += 16)
      v128.store(p, f32x4.add(f32x4.mul(v128.load(r + off), v128.load(one + off)), f32x4.mul(kept, v128.load(p))))
    for (; i < length; i++, p += 4, off += 4)
      store<f32>(p, load<f32>(r + off) * load<f32>(one + off) + keep * load<f32>(p))
  }
}
