/** Commands by their keys. */
import { keysOf, useOwnKeys } from '@/ui/store/ownKeys'
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

/** By key; made anew when keys are given. */
let table: ReadonlyMap<string, Command> | null = null
useOwnKeys.subscribe(() => (table = null))
export const commandOfKey = (name: string): Command | undefined =>
  (table ??= new Map(COMMANDS.flatMap((command) => keysOf(command).map((key) => [key, command] as const)))).get(name)
export function commandFor(event: KeyboardEvent): Command | undefined {
  const name = keyName(event)
  return isSingle(name) && !singleKeys() ? undefined : commandOfKey(name)
}
/** One sign without Ctrl or Alt: what speech input and shaky hands press without meaning it. */
export const isSingle = (name: string): boolean => /^(Shift\+)?[^ ]$/u.test(name)
