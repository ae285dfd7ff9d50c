import { type Size } from '../raster/picture'
import { INSIDE } from './gridCut'

/** An edge of so many CIELAB units a pixel is as good as any. */
export const STRONG = 12

/** How well the outline of what is inside lies on edges: the mean gradient along it, CIELAB units a pixel, weak to strong 0-12; 0 without an outline. */
export function outlineStrength(state: Uint8Array, gradient: Float32Array, { width, height }: Size): number {
  let length = 0,
    strength = 0
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      if (state[i] !== INSIDE) continue
      for (const j of [
        x > 0 ? i - 1 : i,
        x < width - 1 ? i + 1 : i,
        y > 0 ? i - width : i,
        y < height - 1 ? i + width : i,
      ])
        if (state[j] !== INSIDE) {
          length++
          strength += Math.min(STRONG, Math.max(gradient[i], gradient[j]))
        }
    }
  return length ? strength / length : 0
}
