/** Gives the network what it has learnt about sky, as `withWaterWeights.ts` does about water. */
import { giveWeights } from './network'
import { WEIGHTS } from './skyWeights'

giveWeights('sky', () => WEIGHTS)
