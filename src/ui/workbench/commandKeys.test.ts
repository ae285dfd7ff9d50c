import { describe, expect, it } from 'vitest'
import { giveKeys } from '@/ui/store/ownKeys'
import { commandFor, commandOfKey, isSingle, keyName } from './commandKeys'
import { COMMANDS } from './commands'

const press = (key: string, code: string, held: object = {}) => ({
  key,
  code,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...held,
})

describe('keys', () => {
  it('are called by what they say, digits and brackets by where they lie, letters of other scripts by the Latin ones there', () => {
    expect(keyName(press('i', 'KeyI'))).toBe('i')
    expect(keyName(press('Z', 'KeyZ', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+z')
    expect(keyName(press('z', 'KeyY', { metaKey: true }))).toBe('Ctrl+z') // a German layout
    expect(keyName(press('&', 'Digit1'))).toBe('1') // a French one
    expect(keyName(press('!', 'Digit1', { shiftKey: true }))).toBe('Shift+1')
    expect(keyName(press('ü', 'BracketLeft'))).toBe('[')
    expect(keyName(press('я', 'KeyZ', { ctrlKey: true }))).toBe('Ctrl+z')
    expect(keyName(press('ArrowLeft', 'ArrowLeft', { shiftKey: true }))).toBe('Shift+ArrowLeft')
  })
  it('each calls one command', () => {
    const keys = COMMANDS.flatMap((command) => command.keys ?? [])
    expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([])
  })
  it('can be given to other commands, and are the usual ones again', () => {
    giveKeys({ mask: ['j'], 'layer lift': [] })
    expect(commandOfKey('j')?.id).toBe('mask')
    expect(commandOfKey('m')).toBeUndefined()
    expect(commandOfKey('l')).toBeUndefined()
    giveKeys({ mask: undefined, 'layer lift': undefined })
    expect([commandOfKey('j')?.id, commandOfKey('m')?.id]).toEqual([undefined, 'mask'])
  })
  it('single ones are told from those that nobody presses by chance', () => {
    expect(['i', 'Shift+l', '?', '1'].map(isSingle)).toEqual([true, true, true, true])
    expect(['Ctrl+z', 'Alt+ArrowUp', 'Enter', 'Escape', 'ArrowLeft'].map(isSingle)).toEqual(Array(5).fill(false))
    expect(commandFor(press('m', 'KeyM') as KeyboardEvent)?.id).toBe('mask')
  })
})
