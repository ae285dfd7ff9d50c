import { type PointerEvent, type SVGAttributes, useRef } from 'react'
import { type Edit } from '@/document/history'
import { abandon, preview, settle } from '@/ui/store/bench'
import { onEscape } from '@/ui/primitives/takenBack'

type At = readonly [x: number, y: number]
type PullHandlers = Pick<
  SVGAttributes<SVGElement>,
  'onPointerDown' | 'onPointerMove' | 'onPointerUp' | 'onPointerCancel' | 'onMouseDown'
>

/**
 * For what is pressed and pulled along: where a press alone does something, too (a point is put on an outline's side). Escape takes it back.
 * @param what it is now: while it is pulled, what it was at the press
 * @param edit what comes of a press and of where the pointer is now, both px from the svg's corner; null: nothing
 */
export function usePull<T>(): (
  label: string,
  what: T,
  edit: (what: T, from: At, to: At) => Edit | null,
) => PullHandlers {
  const held = useRef<{ what: T; from: At; letGo: () => void } | null>(null)
  const at = (event: PointerEvent<SVGElement>): At => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }
  return (label, what, edit) => {
    const show = (event: PointerEvent<SVGElement>) => {
      if (!held.current) return
      const made = edit(held.current.what, held.current.from, at(event))
      if (made) preview(made)
      else abandon()
    }
    const end = (taken: boolean) => {
      if (!held.current) return
      held.current.letGo()
      held.current = null
      if (taken) settle(label)
      else abandon()
    }
    return {
      onMouseDown: (event) => event.preventDefault(),
      onPointerDown(event) {
        if (event.button !== 0) return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        held.current = { what, from: at(event), letGo: onEscape(() => end(false)) }
        show(event)
      },
      onPointerMove: show,
      onPointerUp(event) {
        if (held.current) event.stopPropagation()
        end(true)
      },
      onPointerCancel: () => end(false),
    }
  }
}
