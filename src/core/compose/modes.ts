/** Blend modes and Porter-Duff operators, by the names and in the order of W3C Compositing and Blending Level 1 (sections 10 and 9). */

export const BLEND_MODES = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
] as const
export type BlendMode = (typeof BLEND_MODES)[number]

export const OPERATORS = [
  'clear',
  'copy',
  'destination',
  'source-over',
  'destination-over',
  'source-in',
  'destination-in',
  'source-out',
  'destination-out',
  'source-atop',
  'destination-atop',
  'xor',
  'lighter',
] as const
export type Operator = (typeof OPERATORS)[number]

/** The kernels' numbers for them. */
export const modeNumber = (mode: BlendMode): number => BLEND_MODES.indexOf(mode)
export const operatorNumber = (operator: Operator): number => OPERATORS.indexOf(operator)
/** Beyond the standard's: as source-over, but two coverages of a pixel take different parts of it as long as there is room. Source: X Rendering Extension, "DisjointOver". */
export const DISJOINT_OVER = OPERATORS.length
