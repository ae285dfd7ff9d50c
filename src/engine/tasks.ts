/** Every task that threads take a share of, wherever they run. */
import { correctBlocks } from '@/core/edge/foregroundColours'
import { lookAtTiles } from '@/core/network/expectedCoverage'
import { nearRows } from '@/core/matting/band'
import { solveBlocks } from '@/core/matting/blocks'
import { followInStrips } from '@/core/matting/fineThings'
import { tellParts } from '@/core/matting/learning'
import { halveRows } from '@/core/matting/level'
import { findMiddles } from '@/core/matting/middles'
import { solveByLearners } from '@/core/matting/solveUnknown'
import { type Task } from '@/core/parallel/crew'
import { drawWholePictures } from './drawInParts'

export const TASKS: readonly Task<never, never>[] = [
  nearRows,
  lookAtTiles,
  findMiddles,
  followInStrips,
  halveRows,
  tellParts,
  solveByLearners,
  solveBlocks,
  correctBlocks,
  drawWholePictures,
]
