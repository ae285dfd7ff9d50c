/** Commands by their keys. */
import { COMMANDS } from './commands'
import { type Command } from './command'
import { singleKeys } from './keys'

/** Keys that are meant by where they lie: layouts put other signs there, or ask for Shift. */
const BY_PLACE: Record<string, string> = { BracketLeft: '[', BracketRight: ']' }
type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>
function nameOf({ key, code }: Pressed): string {
  const digit = /^Digit(\d)$/.exec(code)
  if (digit) return digit[1]
  if (BY_PLACE[code]) return BY_PLACE[code]
  // Letters of other scripts lie where Latin ones do.
  const letter = /^Key([A-Z])$/.exec(code)
  if (letter && key.length === 1 && key > '\x7f') return letter[1].toLowerCase()
  return key.length === 1 ? key.toLowerCase() : key
}
/** What a key press is called in the table. */
export const keyName = (event: Pressed): string =>
  `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${event.shiftKey ? 'Shift+' : ''}${nameOf(event)}`
/** For menus: commands that do not need the view. */
export const runCommand = (id: string): void => COMMANDS.find((command) => command.id === id)?.run(null as never)

const byKey = new Map(COMMANDS.flatMap((command) => (command.keys ?? []).map((key) => [key, command] as const)))
export function commandFor(event: KeyboardEvent): Command | undefined {
  const name = keyName(event)
  return isSingle(name) && !singleKeys() ? undefined : byKey.get(name)
}
/** One sign without Ctrl or Alt: what speech input and shaky hands press without meaning it. */
export const isSingle = (name: string): boolean => /^(Shift\+)?.$/u.test(name)

const SIGNS: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Delete: 'Del',
  Escape: 'Esc',
}
const MAC: Record<string, string> = { Ctrl: '⌘', Alt: '⌥', Shift: '⇧' }
const onMac = typeof navigator !== 'undefined' && /mac|iphone|ipad/i.test(navigator.userAgent)
/** For people: "Ctrl+Shift+Z", or as a Mac writes it. */
export const shownKey = (key: string): string =>
  key
    .split('+')
    .map((part) => (onMac ? MAC[part] : undefined) ?? SIGNS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
    .join(onMac ? '' : '+') || '+'
