import { Move } from 'lucide-react'
import { toast } from 'sonner'
import { apply, compose, translation } from '@/core/raster/affine'
import { get, preview, settle } from '@/ui/store/bench'
import { placeableOf } from '@/ui/canvas/placeable'
import { PlaceHandles } from '@/ui/canvas/PlaceHandles'
import { boxOf, layerSnapper } from '@/ui/canvas/snapping'
import { type HandPage, type HandPress } from './hand'
import { later } from '@/ui/primitives/later'

const PlacePanel = later(() => import('../PlacePanel').then((module) => module.PlacePanel))

/** Drags what is placed, drawn to what is near. With Shift it keeps to the horizontal or vertical. */
function press({ project, point, scale }: HandPress) {
  const thing = placeableOf(project, get().placing)
  if (!thing) return null
  if (thing.problem) {
    toast(thing.problem)
    return null
  }
  let moved = false
  const snap = layerSnapper(thing.id, scale)
  const box = boxOf(
    [
      [0, 0],
      [thing.width, 0],
      [thing.width, thing.height],
      [0, thing.height],
    ].map(([x, y]) => apply(thing.placement, x, y)),
  )!
  return {
    move([x, y]: readonly [number, number], { shift, free }: { shift: boolean; free: boolean }) {
      let dx = x - point[0],
        dy = y - point[1]
      if (shift) {
        if (Math.abs(dx) > Math.abs(dy)) dy = 0
        else dx = 0
      }
      const [sx, sy] = snap.offset(
        [box.left + dx, (box.left + box.right) / 2 + dx, box.right + dx],
        [box.top + dy, (box.top + box.bottom) / 2 + dy, box.bottom + dy],
        free,
      )
      moved = true
      // Whole pixels: a picture that is only moved stays as sharp as it came.
      preview(thing.place(compose(translation(Math.round(dx + sx), Math.round(dy + sy)), thing.placement)))
    },
    end() {
      snap.end()
      if (moved) settle(`Move ${thing.name}`)
    },
    cancel() {
      snap.end()
    },
  }
}

export const placeHand: HandPage = {
  id: 'place',
  name: 'Place',
  icon: Move,
  press,
  Panel: PlacePanel,
  hint: 'Drag on the picture to move the active layer, its corners to scale it (Alt: about its middle), its sides to stretch it (Ctrl: to skew it), the round grip to turn it. Arrow keys move by 1 px, with Shift by 10.',
  Handles: ({ project, map }) => <PlaceHandles project={project} map={map} />,
}
