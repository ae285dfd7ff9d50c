import { expect, it } from 'vitest'
import { dropUnexpected } from './expectation'

const rows = (...lines: string[]) => ({
  state: Uint8Array.from(lines.join(''), (c) => (c === '.' ? 1 : 2)),
  size: { width: lines[0].length, height: lines.length },
})
/** Nats: what is written as a small letter is not expected. */
const odds = (...lines: string[]) => Float32Array.from(lines.join(''), (c) => (/[A-Z]/.test(c) ? 2 : -2))

it('of the pieces beside the largest those that are not expected go, those that are stay', () => {
  const lines = ['aaa..B.', 'aaa....', 'aaa.c..', '....cC.'],
    { state, size } = rows(...lines)
  dropUnexpected(state, odds(...lines), size)
  expect([...state].map((side) => (side === 2 ? '#' : '.')).join('')).toBe(
    '###..#.' + '###....' + '###....' + '.......',
  )
})
it('nothing at all stays nothing', () => {
  const { state, size } = rows('...', '...')
  dropUnexpected(state, odds('...', '...'), size)
  expect(state.includes(2)).toBe(false)
})
