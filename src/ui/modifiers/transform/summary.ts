/** What a map does, in figures. */
import { type Affine } from '@/core/raster/affine'
import { type StepOfKind } from '@/core/steps/registry'

/** Degrees clockwise, and how many times as large. */
export const turnOf = ([a, b]: Affine): number => (Math.atan2(b, a) * 180) / Math.PI
export const scaleOf = ([a, b, c, d]: Affine): number => Math.sqrt(Math.abs(a * d - b * c))

export function transformSummary({ matrix }: StepOfKind<'transform'>): string {
  const turn = Math.round(turnOf(matrix)),
    scale = Math.round(scaleOf(matrix) * 100)
  const [x, y] = [Math.round(matrix[4]), Math.round(matrix[5])]
  return [
    scale !== 100 && `${scale} %`,
    turn !== 0 && `${turn}°`,
    scale === 100 && turn === 0 && (x || y ? `${x}, ${y} px` : 'no change'),
  ]
    .filter(Boolean)
    .join(' · ')
}
