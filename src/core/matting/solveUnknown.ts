/** Solves the unknown part of a matte by one of two solvers, on a level where it is not too large, and brings it to full size. */
import { halvePicture } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'
import { solveClosedForm } from './closedForm'
import { solveBySampling } from './sampling'

export const SOLVERS = ['closedForm', 'sampling'] as const
export type Solver = (typeof SOLVERS)[number]

/** More unknown pixels than this are solved at half the size only, and so on. */
const MOST_UNKNOWN = 250_000
/** The closed form begins with what half the size says as long as there are more unknown pixels than this: from far away it comes slowly. */
const FEW = 800

/** Solves, in place, where `unknown` is 1; everything else of `matte` is taken as known. Sizes are the picture's. */
export function solveUnknown(picture: Picture, matte: Matte, unknown: Uint8Array, solver: Solver, check: (progress: number) => void): void {
  let count = 0
  for (let i = 0; i < unknown.length; i++) count += unknown[i]
  if (count === 0) return
  const solve = solver === 'closedForm' ? solveClosedForm : solveBySampling
  if (count > MOST_UNKNOWN || (solver === 'closedForm' && count > FEW)) fromHalf(picture, matte, unknown, solver, check)
  if (count <= MOST_UNKNOWN) solve(picture, unknown, matte.data, check)
}

function fromHalf(picture: Picture, matte: Matte, unknown: Uint8Array, solver: Solver, check: (progress: number) => void): void {
  const { width, height } = picture, half = halvePicture(picture), alpha = new Uint8Array(half.width * half.height), open = new Uint8Array(alpha.length)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) { const o = (y >> 1) * half.width + (x >> 1), i = y * width + x; if (unknown[i]) open[o] = 1; alpha[o] = matte.data[i] }
  const small: Matte = { width: half.width, height: half.height, data: alpha }
  solveUnknown(half, small, open, solver, check)
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i++) {
    if (!unknown[i]) continue
    const u = Math.max(0, (x - 0.5) / 2), v = Math.max(0, (y - 0.5) / 2), left = u | 0, top = v | 0, right = Math.min(half.width - 1, left + 1), low = Math.min(half.height - 1, top + 1), fx = u - left, fy = v - top
    matte.data[i] = (alpha[top * half.width + left] * (1 - fx) + alpha[top * half.width + right] * fx) * (1 - fy) + (alpha[low * half.width + left] * (1 - fx) + alpha[low * half.width + right] * fx) * fy + 0.5
  }
}
