// Planes of decisions, a byte for each pixel: 0 undecided, 1 outside, 2 inside; from level to level, and to a matte.

const UNDECIDED: u8 = 0,
  OUTSIDE: u8 = 1,
  INSIDE: u8 = 2
const IN_EDGE: u8 = 254,
  OUT_EDGE: u8 = 1 // inside is 255, outside 0

/** Each pixel as four, cut to a size. Memory after `to` is written to: 31 bytes. */
export function doubleStates(from: usize, across: i32, to: usize, width: i32, height: i32): void {
  for (let y: i32 = 0; y < height; y += 2) {
    const row = to + <usize>y * width,
      source = from + <usize>(y >> 1) * across
    for (let x: i32 = 0, k: i32 = 0; x < width; x += 32, k += 16) {
      const v = v128.load(source + k)
      v128.store(row + x, i8x16.shuffle(v, v, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 5, 5, 6, 6, 7, 7))
      v128.store(row + x, i8x16.shuffle(v, v, 8, 8, 9, 9, 10, 10, 11, 11, 12, 12, 13, 13, 14, 14, 15, 15), 16)
    }
    if (y + 1 < height) memory.copy(row + width, row, width)
  }
}

/** Marks of a pick (254 and 255 inside, 0 and 1 outside) as decisions, in place: inside, or 0. Memory after them is written to: 15 bytes. */
export function decideMarks(marks: usize, count: i32): void {
  const high = i8x16.splat(-128)
  for (let i: i32 = 0; i < count; i += 16) v128.store(marks + i, i8x16.shr_u(v128.and(v128.load(marks + i), high), 6))
}

/** Opens to a new decision what lies within `band` px of where the coarser level changes sides. Memory after `coarse` is read: 16 bytes. */
export function openBand(coarse: usize, across: i32, down: i32, to: usize, width: i32, height: i32, band: i32): void {
  for (let y: i32 = 0; y < down; y++) {
    const row = coarse + <usize>y * across,
      beneath = y + 1 < down ? row + across : row
    for (let x: i32 = 0; x < across; x += 16) {
      const v = v128.load(row + x)
      let changes =
        ~i8x16.bitmask(i8x16.eq(v, v128.load(row + x, 1))) | ~i8x16.bitmask(i8x16.eq(v, v128.load(beneath + x)))
      changes &= 0xffff
      while (changes) {
        const k = x + ctz(changes)
        changes &= changes - 1
        if (k >= across) break
        const side = load<u8>(row + k)
        if ((k + 1 < across && side !== load<u8>(row + k + 1)) || side !== load<u8>(beneath + k)) {
          const left = max(0, 2 * k + 1 - band),
            right = min(width, 2 * k + 2 + band)
          for (let v = max(0, 2 * y + 1 - band), end = min(height, 2 * y + 2 + band); v < end; v++)
            memory.fill(to + <usize>v * width + left, UNDECIDED, right - left)
        }
      }
    }
  }
}

/**
 * A row of words beside its decisions: transparent px are outside; decided px whose colour speaks against their side by more than `loud` nats
 * are opened again, where `near` (a byte for 2^shift px; 0: everywhere) allows. `table`: floats by the upper six bits of each channel (red lowest), NaN where not known.
 * Returns the first px whose colour is not known, or `count`.
 */
export function hearRow(
  words: usize,
  from: i32,
  count: i32,
  states: usize,
  table: usize,
  near: usize,
  shift: i32,
  loud: f32,
): i32 {
  for (let i = from; i < count; i++) {
    const word = load<u32>(words + ((<usize>i) << 2))
    if (<i32>word >= 0) {
      store<u8>(states + i, OUTSIDE)
      continue
    }
    const side = load<u8>(states + i)
    if (side === UNDECIDED || (near && load<u8>(near + (i >> shift)) === 0)) continue
    const nats = load<f32>(
      table + ((<usize>(((word >> 2) & 63) | ((word >> 4) & 0xfc0) | ((word >> 6) & 0x3f000))) << 2),
    )
    if (nats !== nats) return i
    if (side === INSIDE ? nats < -loud : nats > loud) store<u8>(states + i, UNDECIDED)
  }
  return count
}

/** What is given goes over what is decided. Both have room for 15 bytes more. */
export function giveStates(given: usize, states: usize, count: i32): void {
  const none = i8x16.splat(UNDECIDED)
  for (let i: i32 = 0; i < count; i += 16) {
    const g = v128.load(given + i)
    v128.store(states + i, v128.bitselect(v128.load(states + i), g, i8x16.eq(g, none)))
  }
}

/**
 * A row of decisions to marks: inside, outside, and with `soft` the px on either side of the edge, whose places are written to `edges` (i32, from `first` on).
 * `above` and `below` are the rows beside it, or the row itself. Returns how many there are.
 */
export function markRow(
  above: usize,
  here: usize,
  below: usize,
  width: i32,
  marks: usize,
  edges: usize,
  first: i32,
  soft: bool,
): i32 {
  const inside = i8x16.splat(INSIDE)
  let found: i32 = 0
  for (let x: i32 = 0; x < width; x += 16) {
    const v = v128.load(here + x)
    v128.store(marks + x, i8x16.eq(v, inside))
    if (!soft) continue
    let changes = i8x16.bitmask(
      v128.not(
        v128.and(
          v128.and(i8x16.eq(v, v128.load(here + x - 1)), i8x16.eq(v, v128.load(here + x, 1))),
          v128.and(i8x16.eq(v, v128.load(above + x)), i8x16.eq(v, v128.load(below + x))),
        ),
      ),
    )
    while (changes) {
      const k = x + ctz(changes)
      changes &= changes - 1
      if (k >= width) break
      const side = load<u8>(here + k)
      if (
        (k > 0 && side !== load<u8>(here + k - 1)) ||
        (k + 1 < width && side !== load<u8>(here + k + 1)) ||
        side !== load<u8>(above + k) ||
        side !== load<u8>(below + k)
      ) {
        store<u8>(marks + k, side === INSIDE ? IN_EDGE : OUT_EDGE)
        store<i32>(edges + ((<usize>found) << 2), first + k)
        found++
      }
    }
  }
  return found
}

/** At 1 / 2^shift the size: inside where any px is, else outside. */
export function shrinkInside(
  from: usize,
  width: i32,
  height: i32,
  shift: i32,
  to: usize,
  across: i32,
  down: i32,
): void {
  memory.fill(to, OUTSIDE, <usize>across * down)
  for (let y: i32 = 0; y < height; y++) {
    const row = to + <usize>(y >> shift) * across,
      source = from + <usize>y * width
    for (let x: i32 = 0; x < width; x++) if (load<u8>(source + x) === INSIDE) store<u8>(row + (x >> shift), INSIDE)
  }
}

/** What is inside where the smaller plane is not becomes outside. */
export function keepInside(states: usize, width: i32, height: i32, shift: i32, small: usize, across: i32): void {
  for (let y: i32 = 0; y < height; y++) {
    const row = small + <usize>(y >> shift) * across,
      to = states + <usize>y * width
    for (let x: i32 = 0; x < width; x++)
      if (load<u8>(to + x) === INSIDE && load<u8>(row + (x >> shift)) !== INSIDE) store<u8>(to + x, OUTSIDE)
  }
}
