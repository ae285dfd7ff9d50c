// Which component of a mixture of Gaussians each sample is likeliest of.

/**
 * `samples`: three planes of `plane` bytes, floats, a whole number of fours; `components`: ten floats each (logarithm of weight and
 * normalisation; mean; inverse covariance xx, xy, xz, yy, yz, zz); `to`: i32 for each sample.
 */
export function likeliest(samples: usize, plane: usize, count: i32, components: usize, parts: i32, to: usize): void {
  const half = f32x4.splat(0.5)
  for (let i: i32 = 0; i < count; i += 4, samples += 16, to += 16) {
    const x = v128.load(samples),
      y = v128.load(samples + plane),
      z = v128.load(samples + 2 * plane)
    let least = f32x4.splat(f32.MAX_VALUE),
      best = i32x4.splat(0)
    for (let k: i32 = 0, c = components; k < parts; k++, c += 40) {
      const dx = f32x4.sub(x, v128.load32_splat(c, 4)),
        dy = f32x4.sub(y, v128.load32_splat(c, 8)),
        dz = f32x4.sub(z, v128.load32_splat(c, 12))
      const twice = f32x4.add(f32x4.mul(v128.load32_splat(c, 20), dy), f32x4.mul(v128.load32_splat(c, 24), dz))
      const first = f32x4.mul(dx, f32x4.add(f32x4.mul(v128.load32_splat(c, 16), dx), f32x4.add(twice, twice)))
      const across = f32x4.mul(v128.load32_splat(c, 32), dz),
        second = f32x4.mul(dy, f32x4.add(f32x4.mul(v128.load32_splat(c, 28), dy), f32x4.add(across, across)))
      const cost = f32x4.sub(
        f32x4.mul(half, f32x4.add(first, f32x4.add(second, f32x4.mul(v128.load32_splat(c, 36), f32x4.mul(dz, dz))))),
        v128.load32_splat(c),
      )
      const nearer = f32x4.lt(cost, least)
      least = v128.bitselect(cost, least, nearer)
      best = v128.bitselect(i32x4.splat(k), best, nearer)
    }
    v128.store(to, best)
  }
}
