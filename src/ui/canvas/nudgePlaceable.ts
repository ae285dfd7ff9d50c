import { toast } from 'sonner'
import { compose, translation } from '@/core/raster/affine'
import { actInBurst } from '@/ui/store/bench'
import { type Placeable } from './placeable'

/** By px of the canvas; what cannot be moved says why. */
export function nudgePlaceable(thing: Placeable, dx: number, dy: number): void {
  if (thing.problem) toast(thing.problem)
  else actInBurst(`Move ${thing.name}`, thing.place(compose(translation(dx, dy), thing.placement)), `move ${thing.id}`)
}
