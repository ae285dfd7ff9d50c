/** Drags what can be placed, drawn to what is near. With Shift it keeps to the horizontal or vertical. */
import { toast } from 'sonner'
import { apply, compose, translation } from '@/core/raster/affine'
import { type Drag } from '@/ui/finders/finder'
import { preview, settle } from '@/ui/store/bench'
import { type Placeable } from './placeable'
import { boxOf, layerSnapper } from './snapping'

/** Null where it cannot be moved, which is said. @param point where it was pressed, canvas px @param scale CSS px for one of those */
export function dragPlaceable(thing: Placeable, point: readonly [number, number], scale: number): Drag | null {
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
