/** Keys held, for what a pointer means while they are. */
let space = false
export const isPanKeyHeld = (): boolean => space
export const setPanKey = (held: boolean): void => {
  space = held
}

/** True while typing: single-letter keys belong to the field. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
