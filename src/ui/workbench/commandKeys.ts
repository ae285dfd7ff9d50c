/** Commands by their keys. */
import { COMMANDS } from './commands'
import { type Command } from './command'

/** What a key press is called in the table. */
export function keyName(event: KeyboardEvent): string {
  return `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${event.shiftKey ? 'Shift+' : ''}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`
}
/** For menus: commands that do not need the view. */
export const runCommand = (id: string): void => COMMANDS.find((command) => command.id === id)?.run(null as never)

const byKey = new Map(COMMANDS.flatMap((command) => (command.keys ?? []).map((key) => [key, command] as const)))
export const commandFor = (event: KeyboardEvent): Command | undefined => byKey.get(keyName(event))

const SIGNS: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Delete: 'Del',
  Escape: 'Esc',
}
/** For people: "Ctrl+Shift+Z". */
export const shownKey = (key: string): string =>
  key
    .split('+')
    .map((part) => SIGNS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
    .join('+') || '+'
