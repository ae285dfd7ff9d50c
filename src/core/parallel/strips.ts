/** Rows `from` to (without) `to`. */
export interface Rows {
  readonly from: number
  readonly to: number
}

/** All rows in strips of so many, the last one of what is left: pieces of work by themselves. */
export const stripsOf = (height: number, rows: number): Rows[] =>
  Array.from({ length: Math.ceil(height / rows) }, (_, k) => ({
    from: k * rows,
    to: Math.min(height, (k + 1) * rows),
  }))
