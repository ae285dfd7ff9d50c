/** Every task that threads take a share of, wherever they run. */
import { correctBlocks } from '@/core/edge/foregroundColours'
import { lookAtTiles } from '@/core/matting/expectedCoverage'
import { nearRows } from '@/core/matting/band'
import { solveBlocks } from '@/core/matting/blocks'
import { findMiddles } from '@/core/matting/middles'
import { type Task } from '@/core/parallel/crew'
import { drawWholePictures } from './drawInParts'

export const TASKS: readonly Task<never, never>[] = [
  nearRows,
  lookAtTiles,
  findMiddles,
  solveBlocks,
  correctBlocks,
  drawWholePictures,
]
