import { createContext, useContext, useEffect, useMemo, useRef } from 'react'
import { onEscape } from './takenBack'

/** Gives up what is shown while something is dragged. */
export const Abandon = createContext<() => void>(() => {})

interface Held<T> {
  /** @param value what it is as a pointer takes hold of it */
  take(value: T): void
  /** It was given back: until it is let go, nothing more comes of it. */
  readonly givenBack: boolean
  /** What it was is shown again. */
  giveBack(): void
  letGo(): void
}

/** A value that a pointer drags. Escape gives it back as it was. @param show shows a value while it is dragged */
export function useHeld<T>(show: (value: T) => void): Held<T> {
  const abandon = useContext(Abandon),
    now = useRef({ show, abandon })
  now.current = { show, abandon }
  const held = useMemo(() => {
    let taken: { value: T; stop: () => void } | null = null
    return {
      givenBack: false,
      take(value: T) {
        this.letGo()
        taken = { value, stop: onEscape(() => this.giveBack()) }
      },
      giveBack() {
        if (!taken) return
        const { value } = taken
        this.letGo()
        this.givenBack = true
        now.current.show(value)
        now.current.abandon()
      },
      letGo() {
        taken?.stop()
        taken = null
        this.givenBack = false
      },
    }
  }, [])
  useEffect(() => () => held.letGo(), [held])
  return held
}
