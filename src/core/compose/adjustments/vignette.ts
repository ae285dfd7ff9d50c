import { number } from '../../fields/fields'
import { type Adjustment, smoothStep } from './adjustment'

/** Stops at the corners at the slider's end. */
const REACH = 3
/** The gain by distance from the middle, as a table: 1 is the corner, and beyond it nothing changes any more. */
const STEPS = 8192,
  FARTHEST = 2

/** Darker (below 0) or lighter towards the canvas's corners, in light. `size` 0-1 is how far the middle reaches, `soft` 0-1 how gently it ends, `round` 0-1 goes from the canvas's form to a circle. */
export const vignette: Adjustment<'vignette', { amount: number; size: number; soft: number; round: number }> = {
  kind: 'vignette',
  values: 'linear',
  fields: { amount: number(-1, 1, -0.4), size: number(0, 1, 0.5), soft: number(0, 1, 0.8), round: number(0, 1, 0) },
  rows({ amount, size, soft, round }, region, canvas) {
    if (amount === 0) return null
    const pixel = 2 ** region.level,
      diagonal = Math.hypot(canvas.width, canvas.height) / 2
    const across = (canvas.width / 2) * Math.SQRT2 * (1 - round) + diagonal * round,
      down = (canvas.height / 2) * Math.SQRT2 * (1 - round) + diagonal * round
    const from = size * (1 - soft),
      to = Math.max(from + 1e-3, size + soft * (1 - size))
    const gains = Float32Array.from(
      { length: STEPS + 1 },
      (_, i) => 2 ** (REACH * amount * smoothStep(from, to, (i / STEPS) * FARTHEST)),
    )
    return (row, y) => {
      const dy = ((region.y + y + 0.5) * pixel - canvas.height / 2) / down
      for (let i = 0, x = 0; i < row.length; i += 4, x++) {
        const dx = ((region.x + x + 0.5) * pixel - canvas.width / 2) / across,
          gain = gains[Math.min(STEPS, (Math.sqrt(dx * dx + dy * dy) * (STEPS / FARTHEST) + 0.5) | 0)]
        row[i] *= gain
        row[i + 1] *= gain
        row[i + 2] *= gain
      }
    }
  },
}
