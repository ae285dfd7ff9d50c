/** What a press on the picture does in stages that come when they are shown: each says it itself once it is there. */
import { type HandPress } from '@/ui/compose/hands/hand'
import { type Drag } from '@/ui/finders/finder'
import { type Stage } from '@/ui/store/rooms/view'

export const stageHands: Partial<Record<Stage, (press: HandPress) => Drag | null>> = {}
