/** Every hand, in the order it is shown. */
import { type Hand } from '@/ui/store/rooms/tool'
import { brushHand } from './brush'
import { bucketHand } from './bucket'
import { cropHand } from './crop'
import { type HandPage } from './hand'
import { placeHand } from './place'
import { rampHand } from './ramp'

export const HANDS: readonly HandPage[] = [placeHand, brushHand, bucketHand, rampHand, cropHand]
export const handPage = (id: Hand): HandPage => HANDS.find((hand) => hand.id === id)!
