/** Components whose code is not part of the page's first load: it comes when one of them is first shown, or when the picture is there and nothing else is to be done. */
import { type FunctionComponent, lazy, Suspense } from 'react'

const waiting: (() => Promise<unknown>)[] = []

/** While the server is away code is asked for again after so long, ms. */
const AGAIN_MS = 1500

/** Code that is loaded with the rest, or by whoever needs it before that. What is loaded waits until it is there: a server that is away for a while takes nothing off the screen. */
export function loadLater<T>(load: () => Promise<T>): () => Promise<T> {
  const patiently = async (): Promise<T> => {
    for (;;)
      try {
        return await load()
      } catch {
        await new Promise((again) => setTimeout(again, AGAIN_MS))
      }
  }
  waiting.push(patiently)
  return patiently
}

/** Shows nothing until its code is there. */
export function later<P extends object>(load: () => Promise<FunctionComponent<P>>): FunctionComponent<P> {
  const Loaded = lazy<FunctionComponent<P>>(loadLater(async () => ({ default: await load() })))
  return function Later(props: P) {
    return (
      <Suspense fallback={null}>
        <Loaded {...props} />
      </Suspense>
    )
  }
}

/** Loads what is still to come, one after the other whenever nothing else is to be done, once the first picture is on the screen; then nothing more needs the server. */
export function loadTheRest(): () => void {
  const observer = new PerformanceObserver(async (list) => {
    if (!list.getEntries().some((entry) => entry.name === 'wily:picture')) return
    observer.disconnect()
    for (const load of waiting.splice(0)) {
      await new Promise((rest) => requestIdleCallback(rest))
      await load()
    }
  })
  observer.observe({ type: 'mark', buffered: true })
  return () => observer.disconnect()
}
