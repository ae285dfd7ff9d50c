/**
 * A matte from pairs of colours: for each unknown pixel the nearest known pixels in several directions are tried as its foreground and
 * background, and the pair that explains it best decides; then neighbours agree, the surer ones counting more.
 * Source: Gastal and Oliveira, "Shared sampling for real-time alpha matting", Eurographics 2010 (gathering along rays, here without sharing).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { type Picture } from '../raster/picture'

const RAYS = 12, FARTHEST = 300
/** How much the way to a sample counts beside what the pair leaves unexplained. */
const WAY = 2e-5
/** Unexplained colour (linear, squared) at which a pixel counts half. */
const SURE = 1e-3
const ROUNDS = 2
/** What a pixel's own value counts beside a neighbour's. */
const OWN = 6

/** Solves the pixels of `unknown` (1) from all others, in place; `alpha` 0-255. Pixels that see only one side take it. @param check is called now and then with the progress (0-1) */
export function solveBySampling(picture: Picture, unknown: Uint8Array, alpha: Uint8Array, check: (progress: number) => void = () => {}): void {
  const { width, height, data } = picture, found: number[] = []
  for (let i = 0; i < unknown.length; i++) if (unknown[i]) found.push(i)
  const value = new Float32Array(found.length), sure = new Float32Array(found.length), nodeOf = new Int32Array(unknown.length).fill(-1)
  found.forEach((i, n) => { nodeOf[i] = n })
  const rays = Array.from({ length: RAYS }, (_, k) => [Math.cos((2 * Math.PI * k) / RAYS), Math.sin((2 * Math.PI * k) / RAYS)])
  for (let n = 0; n < found.length; n++) {
    if (n % 4096 === 0) check((0.9 * n) / found.length)
    const i = found[n], x = i % width, y = (i / width) | 0, inside: number[] = [], outside: number[] = []
    for (const [dx, dy] of rays) for (let way = 1; way < FARTHEST; way++) {
      const u = Math.round(x + dx * way), v = Math.round(y + dy * way)
      if (u < 0 || v < 0 || u >= width || v >= height) break
      const j = v * width + u
      if (unknown[j]) continue
      if (alpha[j] > 250) inside.push(j, way); else if (alpha[j] < 5) outside.push(j, way)
      break
    }
    if (!inside.length || !outside.length) { value[n] = inside.length ? 1 : outside.length ? 0 : alpha[i] / 255; sure[n] = 0.1; continue }
    const c = [LINEAR_OF_BYTE[data[i * 4]], LINEAR_OF_BYTE[data[i * 4 + 1]], LINEAR_OF_BYTE[data[i * 4 + 2]]]
    let best = Infinity
    for (let f = 0; f < inside.length; f += 2) for (let b = 0; b < outside.length; b += 2) {
      let along = 0, contrast = 1e-9
      for (let k = 0; k < 3; k++) { const o = LINEAR_OF_BYTE[data[outside[b] * 4 + k]], d = LINEAR_OF_BYTE[data[inside[f] * 4 + k]] - o; along += (c[k] - o) * d; contrast += d * d }
      const a = Math.max(0, Math.min(1, along / contrast))
      let left = 0
      for (let k = 0; k < 3; k++) { const o = LINEAR_OF_BYTE[data[outside[b] * 4 + k]]; left += (c[k] - o - a * (LINEAR_OF_BYTE[data[inside[f] * 4 + k]] - o)) ** 2 }
      const cost = left + WAY * (inside[f + 1] + outside[b + 1])
      if (cost < best) { best = cost; value[n] = a; sure[n] = 1 / (1 + left / SURE) }
    }
  }
  let from = value
  for (let round = 0; round < ROUNDS; round++) {
    const next = new Float32Array(found.length)
    for (let n = 0; n < found.length; n++) {
      const i = found[n], x = i % width
      let sum = (OWN * sure[n] + 1e-6) * from[n], weight = OWN * sure[n] + 1e-6
      for (const j of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width]) { const m = j >= 0 && j < nodeOf.length ? nodeOf[j] : -1; if (m >= 0) { sum += sure[m] * from[m]; weight += sure[m] } }
      next[n] = sum / weight
    }
    from = next
  }
  found.forEach((i, n) => { alpha[i] = 255 * from[n] + 0.5 })
}
