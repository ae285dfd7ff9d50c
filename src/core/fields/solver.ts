/** How the unknown part of a matte is solved (core/matting): what the windows say, or pairs of samples beside that. */
export const SOLVERS = ['closedForm', 'sampling'] as const
export type Solver = (typeof SOLVERS)[number]
