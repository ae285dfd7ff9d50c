/** Gives the network everything it has learnt: threads of Node import this first; the page's workers bring each lesson once it is asked for. */
import './withWeights'
import './withAnchorsWeights'
import './withWaterWeights'
import './withSkyWeights'
import './withHorizonWeights'
