// Live wire: what it costs to go from pixel to pixel along edges, and the cheapest ways from one pixel to all others.
// Planes of the window have a rim, which belongs to nothing. What a step from one pixel into another costs falls with how far both follow the
// edge along it: a cell is four u16, what a step into the pixel costs along each axis (east-west, south-east, south, south-west) less what its own
// edge saves; a saving is four u8, what the pixel's edge saves on a step out of it. Costs are in half units.

const STRAIGHT_SAVING: f32 = 32 // for an edge that runs along the step: half of 32 at either end, in half units
/** Added to every step: none is free. */
const LEAST: i32 = 2
const BUCKETS: i32 = 512

/** Binomial 1-2-1 of px that are `step` bytes apart. Whole fours; a px before and after is read. */
export function calmRow(from: usize, step: usize, to: usize, count: i32): void {
  const quarter = f32x4.splat(0.25),
    half = f32x4.splat(0.5)
  for (let i: i32 = 0; i < count; i += 4, from += 16, to += 16)
    v128.store(
      to,
      f32x4.add(
        f32x4.mul(half, v128.load(from)),
        f32x4.mul(quarter, f32x4.add(v128.load(from - step), v128.load(from + step))),
      ),
    )
}

/**
 * Gradient by Scharr's filter (CIELAB units a px, all three planes together) and the direction of the steepest one turned to run along the edge (unit
 * vector), of a row whose neighbours are `stride` bytes away. Source: Di Zenzo 1986, by the strongest channel. Whole fours.
 */
export function slopeRow(
  from: usize,
  plane: usize,
  stride: usize,
  gradient: usize,
  alongX: usize,
  alongY: usize,
  count: i32,
): void {
  const three = f32x4.splat(3),
    ten = f32x4.splat(10),
    per = f32x4.splat(1.0 / 32.0),
    least = f32x4.splat(0.2),
    one = f32x4.splat(1)
  for (let i: i32 = 0; i < count; i += 4, from += 16) {
    let sum = f32x4.splat(0),
      most = f32x4.splat(-1),
      mx = f32x4.splat(0),
      my = f32x4.splat(0)
    for (let c: i32 = 0, middle = from; c < 3; c++, middle += plane) {
      const up = middle - stride,
        down = middle + stride
      const nw = v128.load(up - 4),
        n = v128.load(up),
        ne = v128.load(up, 4),
        w = v128.load(middle - 4),
        e = v128.load(middle, 4),
        sw = v128.load(down - 4),
        s = v128.load(down),
        se = v128.load(down, 4)
      const gx = f32x4.mul(
        per,
        f32x4.add(f32x4.mul(three, f32x4.add(f32x4.sub(ne, nw), f32x4.sub(se, sw))), f32x4.mul(ten, f32x4.sub(e, w))),
      )
      const gy = f32x4.mul(
        per,
        f32x4.add(f32x4.mul(three, f32x4.add(f32x4.sub(sw, nw), f32x4.sub(se, ne))), f32x4.mul(ten, f32x4.sub(s, n))),
      )
      const square = f32x4.add(f32x4.mul(gx, gx), f32x4.mul(gy, gy)),
        more = f32x4.gt(square, most)
      sum = f32x4.add(sum, square)
      most = v128.bitselect(square, most, more)
      mx = v128.bitselect(gx, mx, more)
      my = v128.bitselect(gy, my, more)
    }
    const g = f32x4.sqrt(sum),
      steep = f32x4.gt(g, least),
      length = f32x4.div(one, f32x4.sqrt(most)),
      at = (<usize>i) << 2
    v128.store(gradient + at, g)
    v128.store(alongX + at, v128.and(steep, f32x4.neg(f32x4.mul(my, length))))
    v128.store(alongY + at, v128.and(steep, f32x4.mul(mx, length)))
  }
}

// @ts-ignore: decorator
@inline function crest(g: v128, at: usize, away: usize): v128 {
  return v128.and(f32x4.ge(g, v128.load(at - away)), f32x4.ge(g, v128.load(at + away)))
}

/**
 * Cells and savings of a row. A step costs by the gradient (0 - `slope`), where the gradient is higher to one side of the edge (`crossing`: Canny 1986,
 * where the second derivative along the gradient changes its sign), and where it does not follow the edge. Whole fours.
 */
export function cellRow(
  gradient: usize,
  alongX: usize,
  alongY: usize,
  stride: usize,
  cells: usize,
  savings: usize,
  count: i32,
  least: f32,
  strong: f32,
  slope: f32,
  crossing: f32,
  direction: f32,
): void {
  const one = f32x4.splat(1),
    two = f32x4.splat(2),
    diagonal = f32x4.splat((2 * Math.SQRT2) as f32),
    saving = f32x4.splat(STRAIGHT_SAVING),
    oblique = f32x4.splat(0.4142135),
    zero = f32x4.splat(0),
    floor = i32x4.splat(LEAST)
  for (let i: i32 = 0; i < count; i += 4, cells += 32) {
    const at = (<usize>i) << 2,
      here = gradient + at,
      g = v128.load(here),
      ax = v128.load(alongX + at),
      ay = v128.load(alongY + at),
      flatX = f32x4.abs(ax),
      flatY = f32x4.abs(ay)
    // The gradient runs across the edge: up and down, sideways, or along one of the diagonals.
    const upright = f32x4.lt(flatY, f32x4.mul(oblique, flatX)),
      sideways = f32x4.lt(flatX, f32x4.mul(oblique, flatY)),
      falling = f32x4.lt(f32x4.mul(ax, ay), zero)
    const onCrest = v128.bitselect(
      crest(g, here, stride),
      v128.bitselect(
        crest(g, here, 4),
        v128.bitselect(crest(g, here, stride + 4), crest(g, here, stride - 4), falling),
        sideways,
      ),
      upright,
    )
    const edge = f32x4.add(
      f32x4.mul(f32x4.splat(slope), f32x4.sub(one, f32x4.min(one, f32x4.mul(g, f32x4.splat(1.0 / strong))))),
      v128.andnot(f32x4.splat(crossing), onCrest),
    )
    const price = f32x4.add(
      f32x4.splat(direction),
      v128.bitselect(edge, f32x4.splat(slope + crossing), f32x4.ge(g, f32x4.splat(least))),
    )
    const straight = i32x4.add(i32x4.trunc_sat_f32x4_u(f32x4.mul(two, price)), floor),
      oblong = i32x4.add(i32x4.trunc_sat_f32x4_u(f32x4.mul(diagonal, price)), floor)
    const x = f32x4.mul(saving, ax),
      y = f32x4.mul(saving, ay),
      east = i32x4.trunc_sat_f32x4_u(f32x4.abs(x)),
      south = i32x4.trunc_sat_f32x4_u(f32x4.abs(y)),
      down = i32x4.trunc_sat_f32x4_u(f32x4.abs(f32x4.add(x, y))),
      up = i32x4.trunc_sat_f32x4_u(f32x4.abs(f32x4.sub(x, y)))
    v128.store(
      savings + at,
      v128.or(v128.or(east, i32x4.shl(down, 8)), v128.or(i32x4.shl(south, 16), i32x4.shl(up, 24))),
    )
    const first = v128.or(i32x4.sub(straight, east), i32x4.shl(i32x4.sub(oblong, down), 16)),
      second = v128.or(i32x4.sub(straight, south), i32x4.shl(i32x4.sub(oblong, up), 16))
    v128.store(cells, i32x4.shuffle(first, second, 0, 4, 1, 5))
    v128.store(cells, i32x4.shuffle(first, second, 2, 6, 3, 7), 16)
  }
}

let used: i32 = 0,
  free: i32 = -1,
  waiting: i32 = 0

// @ts-ignore: decorator
@inline function put(buckets: usize, pool: usize, pixel: i32, distance: i32): void {
  let entry = free
  if (entry >= 0) free = load<i32>(pool + ((<usize>entry) << 3), 4)
  else entry = used++
  const bucket = buckets + ((<usize>(distance & (BUCKETS - 1))) << 2),
    at = pool + ((<usize>entry) << 3)
  store<u64>(at, ((<u64>load<u32>(bucket)) << 32) | (<u64>(<u32>pixel)))
  store<i32>(bucket, entry)
  waiting++
}

/** 1 << way where a neighbour is nearer through here than it was known to be. No branch: it would be guessed wrong half the time. */
// @ts-ignore: decorator
@inline function nearer(cells: usize, best: usize, through: i32, j: i32, way: i32): i32 {
  return (
    (<i32>(
      (through + <i32>load<u16>(cells + ((<usize>j) << 3) + <usize>((way & 3) << 1)) <
        load<i32>(best + ((<usize>j) << 2)))
    )) << way
  )
}

/**
 * The cheapest ways from a pixel to all others, by Dial's buckets (Communications of the ACM 12, 1969), or until `goal` (−1: none) is reached.
 * `best`: i32, 0 where nothing may go; `from`: the way back, 0 east, then clockwise; `buckets`: 512 i32; `pool`: eight bytes each, `capacity` of
 * them; `progress`: 64 bytes, 0 and −1 in the second i32 at first. Returns whether it is done: else the pool needs more room, and it is to be called again.
 */
export function cheapestWays(
  cells: usize,
  savings: usize,
  stride: i32,
  best: usize,
  from: usize,
  buckets: usize,
  pool: usize,
  capacity: i32,
  progress: usize,
  seed: i32,
  goal: i32,
): bool {
  used = load<i32>(progress)
  free = load<i32>(progress, 4)
  waiting = load<i32>(progress, 8)
  const steps = progress + 16,
    without = progress + 48
  for (let way: i32 = 0; way < 8; way++)
    store<i32>(
      steps + ((<usize>way) << 2),
      (way === 2 || way === 6 ? 0 : way < 2 || way === 7 ? 1 : -1) +
        (way === 0 || way === 4 ? 0 : way < 4 ? stride : -stride),
    )
  let distance = load<i32>(progress, 12)
  if (distance === 0) {
    memory.fill(buckets, 255, BUCKETS << 2)
    distance = 1 // 0 is where nothing may go
    store<i32>(best + ((<usize>seed) << 2), distance)
    put(buckets, pool, seed, distance)
  }
  for (; waiting > 0; distance++) {
    const bucket = buckets + ((<usize>(distance & (BUCKETS - 1))) << 2)
    for (let entry = load<i32>(bucket); entry >= 0; entry = load<i32>(bucket)) {
      if (used + 8 > capacity) {
        store<i32>(progress, used)
        store<i32>(progress, free, 4)
        store<i32>(progress, waiting, 8)
        store<i32>(progress, distance, 12)
        return false
      }
      const at = pool + ((<usize>entry) << 3),
        i = load<i32>(at)
      store<i32>(bucket, load<i32>(at, 4))
      store<i32>(at, free, 4)
      free = entry
      waiting--
      if (load<i32>(best + ((<usize>i) << 2)) !== distance) continue // reached nearer since
      if (i === goal) return true
      const saved = load<u32>(savings + ((<usize>i) << 2)),
        east = distance - <i32>(saved & 255),
        down = distance - <i32>((saved >>> 8) & 255),
        south = distance - <i32>((saved >>> 16) & 255),
        up = distance - <i32>(saved >>> 24)
      let closer =
        nearer(cells, best, east, i + 1, 0) |
        nearer(cells, best, down, i + stride + 1, 1) |
        nearer(cells, best, south, i + stride, 2) |
        nearer(cells, best, up, i + stride - 1, 3) |
        nearer(cells, best, east, i - 1, 4) |
        nearer(cells, best, down, i - stride - 1, 5) |
        nearer(cells, best, south, i - stride, 6) |
        nearer(cells, best, up, i - stride + 1, 7)
      if (!closer) continue
      store<i32>(without, east)
      store<i32>(without, down, 4)
      store<i32>(without, south, 8)
      store<i32>(without, up, 12)
      while (closer) {
        const way = ctz(closer),
          axis = way & 3,
          j = i + load<i32>(steps + ((<usize>way) << 2)),
          through =
            load<i32>(without + ((<usize>axis) << 2)) + <i32>load<u16>(cells + ((<usize>j) << 3) + ((<usize>axis) << 1))
        closer &= closer - 1
        store<i32>(best + ((<usize>j) << 2), through)
        store<u8>(from + j, <u8>(way ^ 4))
        put(buckets, pool, j, through)
      }
    }
  }
  return true
}
