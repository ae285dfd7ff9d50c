/**
 * Typed numbers: "120", "3*80+5", "(6000-200)/2", with an optional unit at the end that is allowed for the field ("12 px", "50 %").
 * Returns null for what is not a finite number.
 */
export function evaluate(text: string, unit = ''): number | null {
  let source = text.trim().replace(/,/g, '.').replace(/−/g, '-').replace(/×/g, '*').replace(/÷/g, '/')
  if (unit && source.toLowerCase().endsWith(unit.toLowerCase())) source = source.slice(0, -unit.length)
  source = source.replace(/\s+/g, '')
  let at = 0
  const number = (): number => {
    if (source[at] === '(') { at++; const value = sum(); if (source[at++] !== ')') throw new SyntaxError(); return value }
    if (source[at] === '-') { at++; return -number() }
    if (source[at] === '+') { at++; return number() }
    const match = /^\d*\.?\d+|^\d+\.?/.exec(source.slice(at))
    if (!match) throw new SyntaxError()
    at += match[0].length
    return Number(match[0])
  }
  const product = (): number => {
    let value = number()
    while (source[at] === '*' || source[at] === '/') value = source[at++] === '*' ? value * number() : value / number()
    return value
  }
  const sum = (): number => {
    let value = product()
    while (source[at] === '+' || source[at] === '-') value = source[at++] === '+' ? value + product() : value - product()
    return value
  }
  try {
    const value = sum()
    return at === source.length && Number.isFinite(value) ? value : null
  } catch { return null }
}
