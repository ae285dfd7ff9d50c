/** Gives the network what it has learnt about horizons, as `withWaterWeights.ts` does about water. */
import { WEIGHTS } from './horizonWeights'
import { giveWeights } from './network'

giveWeights('horizon', () => WEIGHTS)
