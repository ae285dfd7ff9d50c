import { type KeyboardEvent, type MouseEvent } from 'react'

const TOWARDS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
/** What lies straight ahead is nearer than what lies aside. */
const ASIDE = 3

/** For onKeyDown of a group of controls: arrow keys move the focus by where they lie, Home and End to the first and the last. */
export function rove(event: KeyboardEvent<HTMLElement>, selector = 'button'): void {
  if (event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return
  const all = [...event.currentTarget.querySelectorAll<HTMLElement>(selector)].filter((each) => each.offsetParent),
    from = all.find((each) => each === document.activeElement)
  if (!from) return
  const to =
    event.key === 'Home'
      ? all[0]
      : event.key === 'End'
        ? all.at(-1)
        : TOWARDS[event.key] && nearest(from, all, TOWARDS[event.key])
  if (!to) return
  event.preventDefault()
  to.focus()
}

function nearest(
  from: HTMLElement,
  all: readonly HTMLElement[],
  [dx, dy]: readonly [number, number],
): HTMLElement | undefined {
  const middle = (each: HTMLElement) => {
      const box = each.getBoundingClientRect()
      return [box.left + box.width / 2, box.top + box.height / 2] as const
    },
    [x, y] = middle(from)
  let best: HTMLElement | undefined,
    least = Infinity
  for (const each of all) {
    const [u, v] = middle(each),
      ahead = (u - x) * dx + (v - y) * dy,
      aside = Math.abs((u - x) * dy) + Math.abs((v - y) * dx)
    const far = ahead + ASIDE * aside
    if (each !== from && ahead > 1 && far < least) {
      best = each
      least = far
    }
  }
  return best
}

/** For onMouseDown of such a group: a press by pointer leaves the focus where it was, so that keys go on meaning the picture; what is being typed is settled. */
export function keepFocus(event: MouseEvent<HTMLElement>): void {
  if (!(event.target as Element).closest('button') || (event.target as Element).closest('input')) return
  event.preventDefault()
  const { activeElement } = document
  if (activeElement instanceof HTMLElement && activeElement.matches('input, textarea, select')) activeElement.blur()
}
