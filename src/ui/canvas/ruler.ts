/** How wide rulers are, CSS px: along the upper and the left side of the picture. */
export const RULER_PX = 20
