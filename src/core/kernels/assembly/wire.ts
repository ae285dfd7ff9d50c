// Live wire: what it costs to go from pixel to pixel along edges, and the cheapest ways from one pixel to all others.
// Planes of the window have one px more all round (a stride of width + 2), which belongs to nothing. A cell is eight bytes: what a straight
// step into the pixel costs, 1 where steps are dearer, what a diagonal one costs (u16), and what following the edge saves at one end of a
// step, in the directions east, south-east, south, south-west. Costs are in half units.

const STRAIGHT_SAVING: f32 = 32 // for an edge that runs along the step: half of 32 at either end, in half units
const BUCKETS: i32 = 512

/** Luma of a row of words with a part of the difference between red and blue, so that edges between colours of one lightness show. Whole fours. */
export function lumaRow(words: usize, to: usize, count: i32): void {
  const byte = i32x4.splat(255), r = f32x4.splat(0.2126), g = f32x4.splat(0.7152), b = f32x4.splat(0.0722), apart = f32x4.splat(0.15)
  for (let i: i32 = 0; i < count; i += 4, words += 16, to += 16) {
    const w = v128.load(words), red = f32x4.convert_i32x4_u(v128.and(w, byte)), green = f32x4.convert_i32x4_u(v128.and(i32x4.shr_u(w, 8), byte)), blue = f32x4.convert_i32x4_u(v128.and(i32x4.shr_u(w, 16), byte))
    v128.store(to, f32x4.add(f32x4.add(f32x4.mul(r, red), f32x4.mul(g, green)), f32x4.add(f32x4.mul(b, blue), f32x4.mul(apart, f32x4.abs(f32x4.sub(red, blue))))))
  }
}

/** Binomial 1-2-1 of px that are `step` bytes apart. Whole fours; a px before and after is read. */
export function calmRow(from: usize, step: usize, to: usize, count: i32): void {
  const quarter = f32x4.splat(0.25), half = f32x4.splat(0.5)
  for (let i: i32 = 0; i < count; i += 4, from += 16, to += 16) v128.store(to, f32x4.add(f32x4.mul(half, v128.load(from)), f32x4.mul(quarter, f32x4.add(v128.load(from - step), v128.load(from + step)))))
}

/** Gradient by Scharr's filter (levels a px), its direction turned to run along the edge (unit vector), and the Laplacian, of a row whose neighbours are `stride` bytes away. Whole fours. */
export function slopeRow(from: usize, stride: usize, gradient: usize, alongX: usize, alongY: usize, laplace: usize, count: i32): void {
  const three = f32x4.splat(3), ten = f32x4.splat(10), four = f32x4.splat(4), per = f32x4.splat(1.0 / 32.0), least = f32x4.splat(0.5)
  for (let i: i32 = 0; i < count; i += 4, from += 16) {
    const up = from - stride, down = from + stride
    const nw = v128.load(up - 4), n = v128.load(up), ne = v128.load(up, 4), w = v128.load(from - 4), e = v128.load(from, 4), sw = v128.load(down - 4), s = v128.load(down), se = v128.load(down, 4)
    const gx = f32x4.mul(per, f32x4.add(f32x4.mul(three, f32x4.add(f32x4.sub(ne, nw), f32x4.sub(se, sw))), f32x4.mul(ten, f32x4.sub(e, w))))
    const gy = f32x4.mul(per, f32x4.add(f32x4.mul(three, f32x4.add(f32x4.sub(sw, nw), f32x4.sub(se, ne))), f32x4.mul(ten, f32x4.sub(s, n))))
    const g = f32x4.sqrt(f32x4.add(f32x4.mul(gx, gx), f32x4.mul(gy, gy))), steep = f32x4.gt(g, least), at = <usize>i << 2
    v128.store(gradient + at, g)
    v128.store(alongX + at, v128.and(steep, f32x4.div(f32x4.neg(gy), g)))
    v128.store(alongY + at, v128.and(steep, f32x4.div(gx, g)))
    v128.store(laplace + at, f32x4.sub(f32x4.add(f32x4.add(w, e), f32x4.add(n, s)), f32x4.mul(four, v128.load(from))))
  }
}

// @ts-ignore: decorator
@inline function crosses(here: v128, there: v128): v128 {
  return v128.and(f32x4.le(f32x4.mul(here, there), f32x4.splat(0)), f32x4.le(f32x4.abs(here), f32x4.abs(there)))
}

/** Cells of a row. A step costs by the gradient (0 - `slope`), where the Laplacian does not change its sign (`crossing`), and where it does not follow the edge. Whole fours. */
export function cellRow(gradient: usize, alongX: usize, alongY: usize, laplace: usize, stride: usize, cells: usize, count: i32, least: f32, strong: f32, slope: f32, crossing: f32, direction: f32): void {
  const one = f32x4.splat(1), two = f32x4.splat(2), diagonal = f32x4.splat(2 * Math.SQRT2 as f32), saving = f32x4.splat(STRAIGHT_SAVING)
  for (let i: i32 = 0; i < count; i += 4, cells += 32) {
    const at = <usize>i << 2, g = v128.load(gradient + at), here = v128.load(laplace + at)
    const zero = v128.or(v128.or(crosses(here, v128.load(laplace + at - 4)), crosses(here, v128.load(laplace + at, 4))), v128.or(crosses(here, v128.load(laplace + at - stride)), crosses(here, v128.load(laplace + at + stride))))
    const edge = f32x4.add(f32x4.mul(f32x4.splat(slope), f32x4.sub(one, f32x4.min(one, f32x4.mul(g, f32x4.splat(1.0 / strong))))), v128.andnot(f32x4.splat(crossing), zero))
    const price = f32x4.add(f32x4.splat(direction), v128.bitselect(edge, f32x4.splat(slope + crossing), f32x4.ge(g, f32x4.splat(least))))
    const first = v128.or(i32x4.trunc_sat_f32x4_u(f32x4.mul(two, price)), i32x4.shl(i32x4.trunc_sat_f32x4_u(f32x4.mul(diagonal, price)), 16))
    const x = f32x4.mul(saving, v128.load(alongX + at)), y = f32x4.mul(saving, v128.load(alongY + at))
    const straight = v128.or(i32x4.trunc_sat_f32x4_u(f32x4.abs(x)), i32x4.shl(i32x4.trunc_sat_f32x4_u(f32x4.abs(y)), 16))
    const second = v128.or(straight, i32x4.shl(v128.or(i32x4.trunc_sat_f32x4_u(f32x4.abs(f32x4.add(x, y))), i32x4.shl(i32x4.trunc_sat_f32x4_u(f32x4.abs(f32x4.sub(x, y))), 16)), 8))
    v128.store(cells, i32x4.shuffle(first, second, 0, 4, 1, 5))
    v128.store(cells, i32x4.shuffle(first, second, 2, 6, 3, 7), 16)
  }
}

let used: i32 = 0, free: i32 = -1, waiting: i32 = 0

// @ts-ignore: decorator
@inline function put(buckets: usize, pool: usize, pixel: i32, distance: i32): void {
  let entry = free
  if (entry >= 0) free = load<i32>(pool + (<usize>entry << 3), 4); else entry = used++
  const bucket = buckets + (<usize>(distance & (BUCKETS - 1)) << 2), at = pool + (<usize>entry << 3)
  store<u64>(at, (<u64>load<u32>(bucket) << 32) | <u64><u32>pixel)
  store<i32>(bucket, entry)
  waiting++
}

// @ts-ignore: decorator
@inline function relax(cells: usize, best: usize, from: usize, buckets: usize, pool: usize, distance: i32, savings: u32, j: i32, way: i32): void {
  const known = load<i32>(best + (<usize>j << 2))
  if (known <= distance + 2) return
  const cell = load<u64>(cells + (<usize>j << 3)), shift = (way & 3) << 3
  let price = (way & 1 ? <i32>((<u32>cell) >>> 16) : <i32>cell & 255) - <i32>((savings >>> shift) & 255) - (<i32>(cell >>> (32 + shift)) & 255)
  if (cell & 0x100) price = (price * 6) / 5
  const reached = distance + max(2, price)
  if (reached >= known) return
  store<i32>(best + (<usize>j << 2), reached)
  store<u8>(from + j, <u8>(way ^ 4))
  put(buckets, pool, j, reached)
}

/**
 * The cheapest ways from a pixel to all others, by Dial's buckets (Communications of the ACM 12, 1969), or until `goal` (−1: none) is reached.
 * `best`: i32, 0 where nothing may go; `from`: the way back, 0 east, then clockwise; `buckets`: 512 i32; `pool`: eight bytes each, `capacity` of
 * them; `progress`: 16 bytes, 0 and −1 in the second at first. Returns whether it is done: else the pool needs more room, and it is to be called again.
 */
export function cheapestWays(cells: usize, stride: i32, best: usize, from: usize, buckets: usize, pool: usize, capacity: i32, progress: usize, seed: i32, goal: i32): bool {
  used = load<i32>(progress); free = load<i32>(progress, 4); waiting = load<i32>(progress, 8)
  let distance = load<i32>(progress, 12)
  if (distance === 0) {
    memory.fill(buckets, 255, BUCKETS << 2)
    distance = 1 // 0 is where nothing may go
    store<i32>(best + (<usize>seed << 2), distance)
    put(buckets, pool, seed, distance)
  }
  for (; waiting > 0; distance++) {
    const bucket = buckets + (<usize>(distance & (BUCKETS - 1)) << 2)
    for (let entry = load<i32>(bucket); entry >= 0; entry = load<i32>(bucket)) {
      if (used + 8 > capacity) {
        store<i32>(progress, used); store<i32>(progress, free, 4); store<i32>(progress, waiting, 8); store<i32>(progress, distance, 12)
        return false
      }
      const at = pool + (<usize>entry << 3), i = load<i32>(at)
      store<i32>(bucket, load<i32>(at, 4))
      store<i32>(at, free, 4)
      free = entry
      waiting--
      if (load<i32>(best + (<usize>i << 2)) !== distance) continue // reached nearer since
      if (i === goal) return true
      const savings = load<u32>(cells + (<usize>i << 3), 4)
      relax(cells, best, from, buckets, pool, distance, savings, i + 1, 0)
      relax(cells, best, from, buckets, pool, distance, savings, i + stride + 1, 1)
      relax(cells, best, from, buckets, pool, distance, savings, i + stride, 2)
      relax(cells, best, from, buckets, pool, distance, savings, i + stride - 1, 3)
      relax(cells, best, from, buckets, pool, distance, savings, i - 1, 4)
      relax(cells, best, from, buckets, pool, distance, savings, i - stride - 1, 5)
      relax(cells, best, from, buckets, pool, distance, savings, i - stride, 6)
      relax(cells, best, from, buckets, pool, distance, savings, i - stride + 1, 7)
    }
  }
  return true
}
