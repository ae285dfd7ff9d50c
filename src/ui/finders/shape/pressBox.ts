import { type StepOfKind } from '@/core/select/registry'
import { abandon, get } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { putStep } from '../putStep'
import { boxBetween, insideBox, onPixels } from './box'

export type BoxKind = 'rectangle' | 'ellipse' | 'triangle'
export type BoxStep = StepOfKind<BoxKind>

/** Shorter than this (CSS px) is a click, not a box. */
const LEAST_PX = 4

/** Drags a new box, or moves the open one when pressed inside it. Keys held at the press choose how it combines; pressed later they shape it. */
export const pressBox = (kind: BoxKind, name: string) => (at: Press, open: BoxStep | undefined): Drag => {
  const step = putStep(at, kind, {}, open)
  if (open && !at.further && insideBox(open, at.point)) {
    let moved = false
    return {
      move(point) { moved = true; step.show({ x: open.x + Math.round(point[0] - at.point[0]), y: open.y + Math.round(point[1] - at.point[1]) }) },
      end() { if (moved) step.end(name) },
    }
  }
  let shiftHeld = at.op !== 'subtract' && at.further, altHeld = at.op !== 'add' && at.further
  let drawn = false
  return {
    move(point, { shift, alt }, screen) {
      shiftHeld &&= shift
      altHeld &&= alt
      drawn = Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) >= LEAST_PX
      if (drawn) step.show({ ...onPixels(boxBetween(at.point, point, shift && !shiftHeld, alt && !altHeld), 0), rotation: 0 })
    },
    end() { if (drawn) step.end(name); else if (get().live) abandon() },
  }
}
