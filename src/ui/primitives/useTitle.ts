import { useEffect } from 'react'

/** What the browser calls its tab: what it shows comes first, so that several can be told apart. */
export function useTitle(shown: string | undefined): void {
  useEffect(() => {
    document.title = shown ? `${shown} · Wily Scissor` : 'Wily Scissor'
  }, [shown])
}
