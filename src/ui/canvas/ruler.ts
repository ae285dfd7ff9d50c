/** What lies over the upper and the left side of the picture, CSS px: what says how it is shown, and rulers. */
export const BAR_PX = 56,
  RULER_PX = 20
