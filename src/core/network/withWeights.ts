/** Gives the network its weights. Whoever may ask the network imports this first: threads of Node at once, the page's workers once they are needed, since the weights are the larger part of their code. */
import { giveWeights } from './network'
import { WEIGHTS } from './weights'

giveWeights('things', () => WEIGHTS)
