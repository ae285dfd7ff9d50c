/** The window that a crop starts from, its ratio, and what a drag makes of it. */
import { apply, inverse } from '@/core/raster/affine'
import { type Project, type Window } from '@/document/records'
import { wholeWindow, windowToCanvas } from '@/document/window'

export const shown = (project: Project): Window => project.window ?? wholeWindow(project.canvas)
/** 0: free. */
export const ratioOf = (ratio: string, project: Project): number =>
  ratio === 'free' ? 0 : ratio === 'own' ? project.canvas.width / project.canvas.height : Number(ratio)

/** Less than a pixel is no window. */
const LEAST = 1
/** The window with one of its places dragged to a point of the canvas; the opposite place stays (with `centred`: the middle). */
export function stretched(
  window: Window,
  u: number,
  v: number,
  point: readonly [number, number],
  ratio: number,
  centred: boolean,
): Window {
  const map = windowToCanvas({ window }),
    [x, y] = apply(inverse(map), point[0], point[1])
  const fixed: [number, number] = centred
      ? [window.width / 2, window.height / 2]
      : [(1 - u) * window.width, (1 - v) * window.height],
    both = centred ? 2 : 1
  let width = u === 0.5 ? window.width : Math.max(LEAST, Math.abs(x - fixed[0]) * both),
    height = v === 0.5 ? window.height : Math.max(LEAST, Math.abs(y - fixed[1]) * both)
  if (ratio > 0) {
    if (v === 0.5 || (u !== 0.5 && width / height > ratio)) height = width / ratio
    else width = height * ratio
  }
  // The middle lies half a side from what stays, on the side of the pointer.
  const middle: [number, number] = centred
    ? fixed
    : [
        u === 0.5 ? fixed[0] : fixed[0] + (Math.sign(u - 0.5) * width) / 2,
        v === 0.5 ? fixed[1] : fixed[1] + (Math.sign(v - 0.5) * height) / 2,
      ]
  const [cx, cy] = apply(map, middle[0], middle[1])
  return { ...window, cx, cy, width, height }
}
