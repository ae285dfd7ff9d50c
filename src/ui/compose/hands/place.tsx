import { Move } from 'lucide-react'
import { get } from '@/ui/store/bench'
import { dragPlaceable } from '@/ui/canvas/dragPlaceable'
import { placeableOf } from '@/ui/canvas/placeable'
import { PlaceHandles } from '@/ui/canvas/PlaceHandles'
import { heldIn } from '@/ui/store/focus'
import { type HandPage, type HandPress } from './hand'

function press({ project, point, scale }: HandPress) {
  const thing = placeableOf(project, heldIn(get()))
  return thing && dragPlaceable(thing, point, scale)
}

export const placeHand: HandPage = {
  id: 'place',
  name: 'Place',
  icon: Move,
  press,
  hint: 'Drag on the picture to move the active layer, its corners to scale it (Alt: about its middle), its sides to stretch it (Ctrl: to skew it), the round grip to turn it. Arrow keys move by 1 px, with Shift by 10.',
  Handles: ({ project, map }) => <PlaceHandles project={project} map={map} />,
}
