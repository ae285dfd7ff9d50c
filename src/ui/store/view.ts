/** What of the canvas is in view: the window, or all of the canvas while the window is being set. */
import { type Affine, IDENTITY } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Project } from '@/document/types'
import { canvasToWindow, windowSize } from '@/document/window'
import { type BenchState } from './bench'

export interface CanvasPart { readonly size: Size; /** From canvas px to its pixels. */ readonly fromCanvas: Affine }
export const partInView = ({ stage, hand }: Pick<BenchState, 'stage' | 'hand'>, project: Project): CanvasPart =>
  stage === 'compose' && hand === 'crop' ? { size: project.canvas, fromCanvas: IDENTITY } : { size: windowSize(project), fromCanvas: project.window ? canvasToWindow(project) : IDENTITY }
