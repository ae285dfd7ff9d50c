/** Lengths as people write them: px, per cent of the canvas's side, millimetres, centimetres and inches at the picture's resolution. */
export type Unit = 'px' | '%' | 'mm' | 'cm' | 'in'
export const UNITS: readonly Unit[] = ['px', '%', 'mm', 'cm', 'in']

const MM_PER_INCH = 25.4

/** How many px one of each unit is. @param side the canvas's side that per cent means, px @param ppi pixels per inch */
export const pxOf = (side: number, ppi: number): Record<Unit, number> => ({
  px: 1,
  '%': side / 100,
  mm: ppi / MM_PER_INCH,
  cm: (10 * ppi) / MM_PER_INCH,
  in: ppi,
})
/** Decimals worth showing. */
export const digitsOf = (unit: Unit, value: number): number => (unit === 'px' ? (value % 1 ? 1 : 0) : 2)
