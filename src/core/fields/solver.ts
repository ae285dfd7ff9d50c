/** How the unknown part of a matte is solved (core/matting): with local colours as a hint, with pairs of samples, or both, weighed place by place. */
export const SOLVERS = ['auto', 'closedForm', 'sampling'] as const
export type Solver = (typeof SOLVERS)[number]
