/** What many things in a row ask for is done once, a little after the first of them. */
const SOON_MS = 300
const waiting = new Set<string>()
export function soon(key: string, work: () => void): void {
  if (waiting.has(key)) return
  waiting.add(key)
  setTimeout(() => {
    waiting.delete(key)
    work()
  }, SOON_MS)
}
