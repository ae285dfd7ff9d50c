/** What of the canvas is in view: the window, or all of the canvas while the window is being set. */
import { type Affine, IDENTITY } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Project } from '@/document/types'
import { canvasToWindow, windowSize } from '@/document/window'
import { type BenchState } from './bench'

export interface CanvasPart {
  readonly size: Size
  /** From canvas px to its pixels. */ readonly fromCanvas: Affine
}
export const partInView = ({ stage, hand }: Pick<BenchState, 'stage' | 'hand'>, project: Project): CanvasPart =>
  stage === 'compose' && hand === 'crop'
    ? { size: project.canvas, fromCanvas: IDENTITY }
    : { size: windowSize(project), fromCanvas: project.window ? canvasToWindow(project) : IDENTITY }

/** How the kept edge is compared with the one shown; off where there is none, or other steps are shown. */
export const comparing = ({ stage, compare, keptEdge, home, result, before }: BenchState): BenchState['compare'] =>
  stage === 'edge' && keptEdge && result && !before && JSON.stringify(keptEdge.home) === JSON.stringify(home)
    ? compare
    : 'off'

/** The layer that is shown by itself because its mask is looked at as a cut-out on a backing; null where none is. */
export function cutOutAlone({ stage, view, backing, home, before, project }: BenchState): string | null {
  if (
    (stage !== 'edge' && stage !== 'select') ||
    view !== 'cutout' ||
    backing === 'below' ||
    home.kind !== 'mask' ||
    before
  )
    return null
  // Of an adjustment by itself there is nothing to see.
  return project?.layers.find((layer) => layer.id === home.layer)?.kind === 'adjust' ? null : home.layer
}
