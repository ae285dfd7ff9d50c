/** A rectangle in pixels of the canvas at 1 / 2^level. */
export interface Region {
  readonly level: number
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
