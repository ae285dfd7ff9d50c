/** Ours beside theirs: what it is called, the ratio to reach where there is one, and both as things to do. */
export type Row = [name: string, target: number | null, ours: () => unknown, reference: string, theirs: () => unknown]
