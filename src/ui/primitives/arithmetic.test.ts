import { describe, expect, it } from 'vitest'
import { evaluate } from './arithmetic'

describe('typed numbers', () => {
  it.each([
    ['12', 12],
    [' 3*80 + 5 ', 245],
    ['(6000-200)/2', 2900],
    ['-4', -4],
    ['2--3', 5],
    ['1.5px', 1.5],
    ['1,5', 1.5],
    ['.5', 0.5],
    ['10 − 4', 6],
  ])('%s is %s', (text, value) => {
    expect(evaluate(text, 'px')).toBe(value)
  })
  it('other units of a field are turned into its own', () => {
    const units = { px: 1, '%': 18, mm: 300 / 25.4 }
    expect(evaluate('50 %', 'px', units)).toBe(900)
    expect(evaluate('25.4mm', 'px', units)).toBeCloseTo(300, 9)
    expect(evaluate('2*450', 'px', units)).toBe(900)
    expect(evaluate('900 px', '%', units)).toBe(50)
    expect(evaluate('5 cm', 'px', units)).toBeNull()
  })
  it.each(['', 'abc', '3*', '(2', '1/0', '5 mm', '2 3)', 'alert(1)'])('%s is no number', (text) => {
    expect(evaluate(text, 'px')).toBeNull()
  })
})
