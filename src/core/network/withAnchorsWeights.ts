/** Gives the network what it has learnt about anchors on an outline, as `withWaterWeights.ts` does about water. */
import { giveWeights } from './network'
import { WEIGHTS } from './anchorsWeights'

giveWeights('anchors', () => WEIGHTS)
