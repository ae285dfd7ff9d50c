import { type ChangeEvent, type KeyboardEvent, useRef, useState } from 'react'

/**
 * A field that is typed into. What it shows stays until Enter, or leaving the field, settles what was typed; Escape takes the typing back. Its keys stay in it:
 * many of them do something on the bench.
 * @param settle what was typed; not called where nothing was
 */
export function useTyping(shown: string, settle: (typed: string) => void) {
  const [typed, setTyped] = useState<string | null>(null),
    /** The same, at once: Escape leaves the field before it is drawn again. */
    latest = useRef<string | null>(null)
  const type = (text: string | null) => {
    latest.current = text
    setTyped(text)
  }
  return {
    typed,
    takeBack: () => type(null),
    field: {
      value: typed ?? shown,
      spellCheck: false,
      onChange: (event: ChangeEvent<HTMLInputElement>) => type(event.target.value),
      onBlur: () => {
        const text = latest.current
        type(null)
        if (text !== null) settle(text)
      },
      onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
        event.stopPropagation()
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Escape') type(null)
        if (event.key === 'Escape' || event.key === 'Enter') event.currentTarget.blur() // which settles, and gives single keys back to the bench
      },
    },
  }
}
