// How far it is to a set of pixels: rows in each column first, then along the rows. Sources: src/core/raster/distance.ts.

/** Rows since the last set pixel of each column, from those of the row before: 0 where set, at most 65535. `set` bytes, rows u16; eights at a time. */
export function rowsSince(set: usize, before: usize, to: usize, count: i32): void {
  const zero = i16x8.splat(0),
    one = i16x8.splat(1)
  for (let x: i32 = 0; x < count; x += 8) {
    const unset = i16x8.eq(i16x8.extend_low_i8x16_u(v128.load64_zero(set + x)), zero),
      at = (<usize>x) << 1
    v128.store(to + at, v128.and(i16x8.add_sat_u(v128.load(before + at), one), unset))
  }
}

/** The same from the row after, where that is nearer. In place. */
export function rowsUntil(after: usize, here: usize, count: i32): void {
  const one = i16x8.splat(1)
  for (let x: i32 = 0; x < count; x += 8) {
    const at = (<usize>x) << 1
    v128.store(here + at, i16x8.min_u(v128.load(here + at), i16x8.add_sat_u(v128.load(after + at), one)))
  }
}

/** 1 where something lies within reach. `rows`: rows away in each column; `across`: how far to both sides reaches what lies so many rows away, for 0 to `most` rows. */
export function withinRow(rows: usize, across: usize, most: i32, out: usize, count: i32): void {
  memory.fill(out, 0, count)
  let until: i32 = -1
  for (let x: i32 = 0; x < count; x++) {
    const away = <i32>load<u16>(rows + ((<usize>x) << 1))
    if (away <= most) until = max(until, x + load<i32>(across + ((<usize>away) << 2)))
    if (x <= until) store<u8>(out + x, 1)
  }
  until = count
  for (let x = count - 1; x >= 0; x--) {
    const away = <i32>load<u16>(rows + ((<usize>x) << 1))
    if (away <= most) until = min(until, x - load<i32>(across + ((<usize>away) << 2)))
    if (x >= until) store<u8>(out + x, 1)
  }
}
