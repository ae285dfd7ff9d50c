// One row of a convolution over channels: each px is `inputs` floats one after the other, and so are its `outputs`, eight of which are made at a time.

/**
 * `from`: the first px that the first output looks at, `stride` bytes to the next row, `step` bytes to what the next output looks at; `side` × `side` px
 * are looked at. `weights`: for each eight outputs, each px looked at and each input the eight weights. `bias`: a float for each output, or 0. `more`: floats
 * that are added, laid out as `to`, or 0. Where `rectify` holds, what is below zero becomes zero. `width` px are made, at least four.
 */
export function convolveRow(
  from: usize,
  stride: usize,
  step: usize,
  side: i32,
  inputs: i32,
  weights: usize,
  bias: usize,
  more: usize,
  to: usize,
  outputs: i32,
  width: i32,
  rectify: boolean,
): void {
  const px = (<usize>outputs) << 2,
    run = (<usize>side * <usize>inputs) << 2,
    zero = f32x4.splat(0)
  for (let o: i32 = 0; o < outputs; o += 8) {
    const at = (<usize>o) << 2
    for (let x: i32 = 0; x < width; x += 4) {
      // The last four may have been made in part already.
      const first = <usize>(x + 4 > width ? width - 4 : x)
      let w = weights + at * (<usize>side * <usize>side * <usize>inputs)
      let a0 = bias ? v128.load(bias + at) : zero,
        a1 = bias ? v128.load(bias + at, 16) : zero,
        b0 = a0,
        b1 = a1,
        c0 = a0,
        c1 = a1,
        d0 = a0,
        d1 = a1
      for (let y: i32 = 0; y < side; y++) {
        let p = from + <usize>y * stride + first * step
        const end = p + run
        while (p < end) {
          const w0 = v128.load(w),
            w1 = v128.load(w, 16)
          w += 32
          let v = v128.load32_splat(p)
          a0 = f32x4.add(a0, f32x4.mul(v, w0))
          a1 = f32x4.add(a1, f32x4.mul(v, w1))
          v = v128.load32_splat(p + step)
          b0 = f32x4.add(b0, f32x4.mul(v, w0))
          b1 = f32x4.add(b1, f32x4.mul(v, w1))
          v = v128.load32_splat(p + 2 * step)
          c0 = f32x4.add(c0, f32x4.mul(v, w0))
          c1 = f32x4.add(c1, f32x4.mul(v, w1))
          v = v128.load32_splat(p + 3 * step)
          d0 = f32x4.add(d0, f32x4.mul(v, w0))
          d1 = f32x4.add(d1, f32x4.mul(v, w1))
          p += 4
        }
      }
      let out = to + first * px + at
      if (more) {
        const m = more + first * px + at
        a0 = f32x4.add(a0, v128.load(m))
        a1 = f32x4.add(a1, v128.load(m, 16))
        b0 = f32x4.add(b0, v128.load(m + px))
        b1 = f32x4.add(b1, v128.load(m + px, 16))
        c0 = f32x4.add(c0, v128.load(m + 2 * px))
        c1 = f32x4.add(c1, v128.load(m + 2 * px, 16))
        d0 = f32x4.add(d0, v128.load(m + 3 * px))
        d1 = f32x4.add(d1, v128.load(m + 3 * px, 16))
      }
      if (rectify) {
        a0 = f32x4.max(a0, zero)
        a1 = f32x4.max(a1, zero)
        b0 = f32x4.max(b0, zero)
        b1 = f32x4.max(b1, zero)
        c0 = f32x4.max(c0, zero)
        c1 = f32x4.max(c1, zero)
        d0 = f32x4.max(d0, zero)
        d1 = f32x4.max(d1, zero)
      }
      v128.store(out, a0)
      v128.store(out, a1, 16)
      out += px
      v128.store(out, b0)
      v128.store(out, b1, 16)
      out += px
      v128.store(out, c0)
      v128.store(out, c1, 16)
      out += px
      v128.store(out, d0)
      v128.store(out, d1, 16)
    }
  }
}

/** Adds to a row of `width` px one of half as many, each to two of them, and cuts off what is below zero; `channels` floats a px, a multiple of four. */
export function addDoubledRow(half: usize, to: usize, channels: i32, width: i32): void {
  const px = (<usize>channels) << 2,
    zero = f32x4.splat(0)
  for (let x: i32 = 0; x < width; x++) {
    const end = to + px
    for (let from = half + <usize>(x >> 1) * px; to < end; from += 16, to += 16)
      v128.store(to, f32x4.max(zero, f32x4.add(v128.load(to), v128.load(from))))
  }
}
