import { type CombineOp } from '@/core/raster/coverage'
import { type BenchState } from '@/ui/store/benchState'
import { finderPage } from './registry'

/** What the next plain use of the chosen tool does: keys held say otherwise. */
export function nextUse({ nextOp, finder }: Pick<BenchState, 'nextOp' | 'finder'>): CombineOp | 'replace' {
  return nextOp === 'replace' && finderPage(finder).adds ? 'add' : nextOp
}
