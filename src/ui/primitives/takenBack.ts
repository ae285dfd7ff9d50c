/** Escape takes a drag back, before it means anything else. Returns what ends the watching. */
export function onEscape(takeBack: () => void): () => void {
  const key = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return
    event.preventDefault()
    event.stopImmediatePropagation()
    stop()
    takeBack()
  }
  const stop = () => window.removeEventListener('keydown', key, { capture: true })
  window.addEventListener('keydown', key, { capture: true })
  return stop
}
