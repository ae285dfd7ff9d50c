import { type StepOfKind } from '@/core/steps/registry'
import { abandon, get } from '@/ui/store/bench'
import { snapper } from '@/ui/canvas/snapping'
import { type Drag, type Press } from '../finder'
import { goOnWith, putStep } from '../putStep'
import { boxBetween, insideBox, onPixels, placesOf } from '@/ui/canvas/box'

export type BoxKind = 'rectangle' | 'ellipse' | 'triangle'
export type BoxStep = StepOfKind<BoxKind>

/** Shorter than this (CSS px) is a click, not a box. */
const LEAST_PX = 4

/** Drags a new box, or moves the open one when pressed inside it. Keys held at the press choose how it combines; pressed later they shape it. */
export const pressBox =
  (kind: BoxKind, name: string) =>
  (at: Press, open: BoxStep | undefined): Drag => {
    const step = putStep(at, kind, {}, open)
    const snap = snapper(at.home, at.scale, at.further ? undefined : open?.id)
    const letGo = (moved: boolean, made = step) => {
      snap.end()
      if (moved) made.end(name)
      else if (get().live) abandon()
    }
    if (open && !at.further && insideBox(open, at.point)) {
      const own = goOnWith(at, open)
      let moved = false
      return {
        move(point, { free }) {
          moved = true
          const x = open.x + Math.round(point[0] - at.point[0]),
            y = open.y + Math.round(point[1] - at.point[1])
          const [dx, dy] = snap.offset(...placesOf({ ...open, x, y }), free)
          own.show({ x: x + dx, y: y + dy })
        },
        end: () => letGo(moved, own),
        cancel: snap.end,
      }
    }
    let shiftHeld = at.op !== 'subtract' && at.further,
      altHeld = at.op !== 'add' && at.further
    let drawn = false
    const from = snap.point(at.point)
    return {
      move(point, { shift, alt, free }, screen) {
        shiftHeld &&= shift
        altHeld &&= alt
        drawn = Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) >= LEAST_PX
        if (drawn)
          step.show({
            ...onPixels(
              boxBetween(
                free ? at.point : from,
                snap.point(point, free),
                (shift && !shiftHeld) || get().boxEqual,
                (alt && !altHeld) || get().boxFromMiddle,
                get().proportions,
              ),
              0,
            ),
            rotation: 0,
          })
      },
      end() {
        const { mode, width, height } = get().proportions
        // A click places a box whose size is pinned.
        if (!drawn && mode === 'size')
          step.show({
            ...onPixels({ x: from[0] - width / 2, y: from[1] - height / 2, width, height }, 0),
            rotation: 0,
          })
        letGo(drawn || mode === 'size')
      },
      cancel: snap.end,
    }
  }
