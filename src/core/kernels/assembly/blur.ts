// Rows weighed by a kernel, summed, blurred by a disc, and brought back by the cubic B-spline.

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
