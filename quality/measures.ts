/** How near an answer comes to the truth. */
import { nearestSetPixels } from '@/core/raster/distance'
import { type Matte } from '@/core/raster/picture'

/** Mean squared difference of coverage 0-1 where the trimap is neither 0 nor 255. */
export function squaredError(a: Matte, t: Matte, trimap: Matte): number {
  let sum = 0,
    n = 0
  for (let i = 0; i < a.data.length; i++) {
    if (trimap.data[i] === 0 || trimap.data[i] === 255) continue
    sum += ((a.data[i] - t.data[i]) / 255) ** 2
    n++
  }
  return n ? sum / n : 0
}

/** Mean distance between two outlines, px, both ways; Infinity where one has none. */
export function outlineDistance(a: Matte, t: Matte): number {
  const one = outline(a),
    other = outline(t)
  return (meanDistance(one, other, a) + meanDistance(other, one, a)) / 2
}

/** Inner pixels of half coverage or more beside one of less. */
function outline({ width, height, data }: Matte): Uint8Array {
  const on = new Uint8Array(data.length)
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x
      if (
        data[i] > 127 &&
        (data[i - 1] <= 127 || data[i + 1] <= 127 || data[i - width] <= 127 || data[i + width] <= 127)
      )
        on[i] = 1
    }
  return on
}

function meanDistance(from: Uint8Array, to: Uint8Array, size: Matte): number {
  const distance = distanceTo(to, size)
  let sum = 0,
    n = 0
  for (let i = 0; i < from.length; i++)
    if (from[i]) {
      sum += distance[i]
      n++
    }
  return n && to.includes(1) ? sum / n : Infinity
}

/** Distance of each pixel to the nearest one that is set, px. */
export function distanceTo(set: Uint8Array, { width, height }: Matte): Float32Array {
  const out = new Float32Array(set.length).fill(Infinity)
  nearestSetPixels(set, { width, height }, width + height, (y, nearest, from, to) => {
    for (let x = from; x < to; x++) {
      const n = nearest[x]
      if (n >= 0) out[y * width + x] = Math.hypot((n % width) - x, Math.floor(n / width) - y)
    }
  })
  return out
}
