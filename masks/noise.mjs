// Value noise, the same each time: lattice values by a hash, cubic between them.
export const smooth = (from, to, v) => {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
export const hash = (x, y, seed) => {
  let v = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(seed, 1274126177)
  v = Math.imul(v ^ (v >>> 13), 1274126177)
  return ((v ^ (v >>> 16)) >>> 0) / 2 ** 32
}
export const noise = (x, y, seed) => {
  const i = Math.floor(x),
    j = Math.floor(y),
    u = smooth(0, 1, x - i),
    v = smooth(0, 1, y - j),
    at = (a, b) => hash(i + a, j + b, seed)
  return (at(0, 0) * (1 - u) + at(1, 0) * u) * (1 - v) + (at(0, 1) * (1 - u) + at(1, 1) * u) * v
}
/** @returns 0-1 */
export const octaves = (x, y, seed, count) => {
  let sum = 0,
    weight = 0
  for (let n = 0; n < count; n++) {
    const w = 0.55 ** n
    sum += w * noise(x * 2 ** n, y * 2 ** n, seed + n)
    weight += w
  }
  return sum / weight
}
