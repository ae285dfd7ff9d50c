/** Gives the network what it has learnt about water: threads of Node at once, the page's workers once it is asked for. */
import { giveWeights } from './network'
import { WEIGHTS } from './waterWeights'

giveWeights('water', () => WEIGHTS)
