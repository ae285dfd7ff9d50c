// The matting Laplacian of a block (Levin, Lischinski and Weiss 2008, equation 12) and conjugate gradients on it. The block is a padded
// grid: two px all round that belong to nothing. Unknown px are nodes, numbered row by row; a run is three i32: its first px in the
// grid, its length, its first node, a multiple of four. Weights, floats for the 5 × 5 px around each node, lie by groups of four nodes:
// 25 times four of them, so that what is read together lies together.

const SIDE: i32 = 5
/** From a px to the next one in a group's weights, and from a group to the next, bytes. */
const SLOT: usize = 16,
  GROUP: usize = 25 * SLOT

// @ts-ignore: decorator
@inline function at32(base: usize, i: i32): usize {
  return base + ((<usize>i) << 2)
}

// @ts-ignore: decorator
@inline function weightsOf(weights: usize, node: i32): usize {
  return weights + <usize>(node >> 2) * GROUP + ((<usize>(node & 3)) << 2)
}

/**
 * Adds the windows whose middles lie in one row, from px `from` on. `colours` are three planes of `plane` bytes, `nodes` i32 (−1: known),
 * `alpha` and `epsilon` floats; `weights` by groups, `right` and `diagonal` floats for each node. `scratch` has room for 27 doubles.
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
  diagonal: usize,
  scratch: usize,
): void {
  const ninth: f64 = 1.0 / 9.0
  for (let middle = from, end = from + count; middle < end; middle++) {
    const top = middle - stride - 1
    let any = false
    for (let y: i32 = 0, i = top; y < 3; y++, i += stride) {
      const at = at32(nodes, i)
      if ((load<i32>(at) & load<i32>(at, 4) & load<i32>(at, 8)) >= 0) any = true
    }
    if (!any) continue
    let mr: f64 = 0,
      mg: f64 = 0,
      mb: f64 = 0,
      to = scratch
    for (let y: i32 = 0, i = top; y < 3; y++, i += stride)
      for (let x: i32 = 0; x < 3; x++, to += 24) {
        const from = at32(colours, i + x),
          r = <f64>load<f32>(from),
          g = <f64>load<f32>(from + plane),
          b = <f64>load<f32>(from + 2 * plane)
        store<f64>(to, r)
        store<f64>(to, g, 8)
        store<f64>(to, b, 16)
        mr += r
        mg += g
        mb += b
      }
    mr *= ninth
    mg *= ninth
    mb *= ninth
    let rr: f64 = 0,
      rg: f64 = 0,
      rb: f64 = 0,
      gg: f64 = 0,
      gb: f64 = 0,
      bb: f64 = 0
    for (let k: i32 = 0, to = scratch; k < 9; k++, to += 24) {
      const r = load<f64>(to) - mr,
        g = load<f64>(to, 8) - mg,
        b = load<f64>(to, 16) - mb
      store<f64>(to, r)
      store<f64>(to, g, 8)
      store<f64>(to, b, 16)
      rr += r * r
      rg += r * g
      rb += r * b
      gg += g * g
      gb += g * b
      bb += b * b
    }
    const rest = <f64>load<f32>(at32(epsilon, middle)) * ninth
    rr = rr * ninth + rest
    rg *= ninth
    rb *= ninth
    gg = gg * ninth + rest
    gb *= ninth
    bb = bb * ninth + rest
    const a = gg * bb - gb * gb,
      b = rb * gb - rg * bb,
      c = rg * gb - rb * gg,
      one = ninth / (rr * a + rg * b + rb * c)
    const irr = a * one,
      irg = b * one,
      irb = c * one,
      igg = (rr * bb - rb * rb) * one,
      igb = (rg * rb - rr * gb) * one,
      ibb = (rr * gg - rg * rg) * one
    let own = scratch
    for (let ky: i32 = 0, i = top; ky < 3; ky++, i += stride)
      for (let kx: i32 = 0; kx < 3; kx++, own += 24) {
        const node = load<i32>(at32(nodes, i + kx))
        if (node < 0) continue
        const r = load<f64>(own),
          g = load<f64>(own, 8),
          b = load<f64>(own, 16)
        const vr = irr * r + irg * g + irb * b,
          vg = irg * r + igg * g + igb * b,
          vb = irb * r + igb * g + ibb * b
        let known: f64 = 0,
          other = scratch
        for (
          let my: i32 = 0, j = top, slot = weightsOf(weights, node) + <usize>((2 - ky) * SIDE + 2 - kx) * SLOT;
          my < 3;
          my++, j += stride, slot += 2 * SLOT
        )
          for (let mx: i32 = 0; mx < 3; mx++, other += 24, slot += SLOT) {
            const value = -ninth - (vr * load<f64>(other) + vg * load<f64>(other, 8) + vb * load<f64>(other, 16))
            if (load<i32>(at32(nodes, j + mx)) >= 0) store<f32>(slot, <f32>(load<f32>(slot) + value))
            else known -= value * <f64>load<f32>(at32(alpha, j + mx))
          }
        // A pixel beside itself: one more.
        const mine = weightsOf(weights, node) + 12 * SLOT,
          value = 1 - ninth - (vr * r + vg * g + vb * b)
        store<f32>(mine, load<f32>(mine) + 1)
        store<f32>(at32(diagonal, node), <f32>(load<f32>(at32(diagonal, node)) + value))
        if (known !== 0) store<f32>(at32(right, node), <f32>(load<f32>(at32(right, node)) + known))
      }
  }
}

/** q = A p for all nodes; p lies in the grid (known px are zero there), q by nodes. Returns p·q. */
export function multiplyNodes(runs: usize, count: i32, weights: usize, grid: usize, stride: i32, q: usize): f64 {
  let sum: f64 = 0
  for (let r: i32 = 0; r < count; r++, runs += 12) {
    const length = load<i32>(runs, 4),
      node = load<i32>(runs, 8)
    let corner = at32(grid, load<i32>(runs) - 2 * stride - 2),
      weight = weightsOf(weights, node),
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
