/** Keys held, for what a pointer means while they are. */
let space = false
export const isPanKeyHeld = (): boolean => space
export const setPanKey = (held: boolean): void => {
  space = held
}

/** True while typing: single-letter keys belong to the field. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

const SINGLE_KEYS = 'wily-scissor single keys'
/** Whether single keys call commands: the browser remembers it. */
export const singleKeys = (): boolean => {
  try {
    return localStorage.getItem(SINGLE_KEYS) !== 'off'
  } catch {
    return true // a browser that keeps nothing
  }
}
export const setSingleKeys = (on: boolean): void => {
  try {
    localStorage.setItem(SINGLE_KEYS, on ? 'on' : 'off')
  } catch {
    /* it holds for nothing then */
  }
}
