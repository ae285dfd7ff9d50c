import { useRef } from 'react'

/** The list that was given before where it says the same: whoever depends on it need not look again. */
export function useSameList<T>(list: readonly T[]): T[] {
  const last = useRef<readonly T[]>(list)
  if (last.current.length !== list.length || list.some((each, i) => each !== last.current[i])) last.current = list
  return last.current as T[]
}
