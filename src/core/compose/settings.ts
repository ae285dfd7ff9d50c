import { type Size } from '../raster/picture'

/** How a composition is drawn. */
export interface Settings {
  readonly canvas: Size
  /** Blends in linear light instead of encoded sRGB. */
  readonly linear?: boolean
}
