/** Small moves by keys: shown at once; many presses are one act. */
import { toast } from 'sonner'
import { compose, translation } from '@/core/raster/affine'
import { type Edit } from '@/document/history'
import { burst } from '@/ui/primitives/burst'
import { act, preview } from '@/ui/store/bench'
import { type Placeable } from './placeable'

export function shift(label: string, edit: Edit): void {
  preview(edit)
  burst(`nudge ${label}`, () => act(label, edit))
}
/** By px of the canvas; what cannot be moved says why. */
export function nudgePlaceable(thing: Placeable, dx: number, dy: number): void {
  if (thing.problem) toast(thing.problem)
  else shift(`Move ${thing.name}`, thing.place(compose(translation(dx, dy), thing.placement)))
}
