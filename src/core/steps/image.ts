import { type FindingKind } from './step'
import { coordinate, number, oneOf, text } from '../fields/fields'

export interface ImageFields {
  /** The picture: a SHA-256 in a project, a file beside the recipe on the command line. */
  asset: string
  /** Stretched over the canvas, or over the active layer, or at its own size. */
  fit: 'canvas' | 'layer' | 'none'
  /** Then scaled and turned about its middle, and moved, px and degrees. */
  x: number
  y: number
  scale: number
  rotation: number
  /** What lies beyond it. */
  outside: 'hidden' | 'shown'
  /** Luminance as it shows over black, or alpha. */
  use: 'luminance' | 'alpha'
}

/** A matte from a picture file: bright is selected, or what is opaque. */
export const image: FindingKind<'image', ImageFields> = {
  kind: 'image',
  finds: true,
  looksAtPixels: false,
  fields: {
    asset: text(400),
    fit: oneOf(['canvas', 'layer', 'none'] as const, 'canvas'),
    x: coordinate('x', 0),
    y: coordinate('y', 0),
    scale: number(0.001, 1000, 1),
    rotation: number(-360, 360, 0, 'degrees'),
    outside: oneOf(['hidden', 'shown'] as const, 'hidden'),
    use: oneOf(['luminance', 'alpha'] as const, 'luminance'),
  },
}
