/** Keys as this browser's editor has given them to commands; and keys as people read them. */
import { create } from 'zustand'

/** By the command's id: as written, "Ctrl+z", "Shift+ArrowLeft", "i"; none: an empty list. */
export type OwnKeys = Readonly<Record<string, readonly string[]>>
const STORE = 'wily-scissor keys'

function read(): OwnKeys {
  try {
    const found = Object.entries(JSON.parse(localStorage.getItem(STORE) ?? '{}') as object)
    return Object.fromEntries(
      found.filter(([, keys]) => Array.isArray(keys) && keys.every((key) => typeof key === 'string')),
    )
  } catch {
    return {} // none, or a browser that keeps nothing
  }
}
export const useOwnKeys = create<OwnKeys>(read)
/** @param keys undefined: the usual ones again */
export function giveKeys(changes: Readonly<Record<string, readonly string[] | undefined>>): void {
  const next = Object.fromEntries(
    Object.entries({ ...useOwnKeys.getState(), ...changes }).filter(([, keys]) => keys !== undefined),
  ) as OwnKeys
  useOwnKeys.setState(next, true)
  try {
    localStorage.setItem(STORE, JSON.stringify(next))
  } catch {
    /* it holds until the page is closed */
  }
}
export const keysOf = ({ id, keys = [] }: { readonly id: string; readonly keys?: readonly string[] }) =>
  useOwnKeys.getState()[id] ?? keys

const SIGNS: Record<string, string> = {
  ' ': 'Space',
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
/** The key of a command, for a hint beside its name; empty where it has none. @param usual where the editor has given it no other */
export const keyHint = (id: string, usual: string): string => shownKey(keysOf({ id, keys: [usual] })[0] ?? '')
