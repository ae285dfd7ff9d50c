/** Values that stay the same object as long as they say the same: what follows from them is not made again. */
import equal from 'fast-deep-equal'
import { useRef } from 'react'

export function useSame<T>(value: T): T {
  const kept = useRef(value)
  if (!equal(kept.current, value)) kept.current = value
  return kept.current
}

/** The same of what is selected from a store: `useBench(useSameOf(select))`. */
export function useSameOf<S, T>(select: (state: S) => T): (state: S) => T {
  const kept = useRef<T>(undefined)
  return (state) => {
    const next = select(state)
    if (!equal(kept.current, next)) kept.current = next
    return kept.current as T
  }
}
