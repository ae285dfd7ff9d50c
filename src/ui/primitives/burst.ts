/** Several turns of the wheel, or presses of an arrow key, are one change: shown at once, made an act when the hand rests or does something else. */
const REST_MS = 500

let open: { readonly key: string; readonly commit: () => void; readonly timer: ReturnType<typeof setTimeout> } | null =
  null

/**
 * What was shown last of this burst becomes an act once the hand rests. Another key ends the burst before.
 * @param show comes after the end of the burst before, which would take it from the screen
 */
export function burst(key: string, show: () => void, commit: () => void): void {
  if (open && open.key !== key) endBurst()
  show()
  if (open) clearTimeout(open.timer)
  open = { key, commit, timer: setTimeout(endBurst, REST_MS) }
}

/** Makes what is shown an act now: before anything else is done. */
export function endBurst(): void {
  if (!open) return
  const { commit, timer } = open
  open = null
  clearTimeout(timer)
  commit()
}

if (typeof window !== 'undefined') {
  // The hand does something else.
  for (const sign of ['pointerdown', 'focusin']) window.addEventListener(sign, endBurst, true)
  window.addEventListener('pagehide', endBurst)
}
