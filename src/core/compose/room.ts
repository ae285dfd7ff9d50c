/** What rows are drawn with: kernels, their memory, and the rows in it that everyone may write into. One for each thread. */
import { KernelStack } from '../kernels'
import { Scratch } from '../raster/scratch'
import { layTables, type Tables } from './tables'

export const PIXEL_BYTES = 16
/** Pixels in a row that is drawn at a time. */
export const LONGEST_ROW = 1024

export interface Room {
  readonly stack: KernelStack
  readonly tables: Tables
  /** Arrays for as long as a node is drawn. */
  readonly scratch: Scratch
  /** Of LONGEST_ROW pixels each: premultiplied floats, bytes, coverage as floats. */
  readonly row: number
  readonly bytes: number
  readonly cover: number
}

export function makeRoom(): Room {
  const stack = new KernelStack()
  return {
    stack,
    tables: layTables(stack),
    scratch: new Scratch(),
    row: stack.take(LONGEST_ROW * PIXEL_BYTES),
    bytes: stack.take(LONGEST_ROW * 4),
    cover: stack.take(LONGEST_ROW * 4),
  }
}
