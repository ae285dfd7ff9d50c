/**
 * Typed numbers: "120", "3*80+5", "(6000-200)/2", with an optional unit at the end that is allowed for the field ("12 px", "50 %").
 * Returns null for what is not a finite number. Where a field knows several units, `units` says how much one of each is.
 */
export function evaluate(text: string, unit = '', units?: Readonly<Record<string, number>>): number | null {
  if (units) {
    const written = Object.keys(units).find((name) => text.trim().toLowerCase().endsWith(name)) ?? unit
    const value = evaluate(text, written)
    return value === null ? null : (value * units[written]) / units[unit]
  }
  let source = text.trim().replace(/,/g, '.').replace(/−/g, '-').replace(/×/g, '*').replace(/÷/g, '/')
  if (unit && source.toLowerCase().endsWith(unit.toLowerCase())) source = source.slice(0, -unit.length)
  source = source.replace(/\s+/g, '')
  let at = 0
  const number = (): number => {
    if (source[at] === '(') {
      at++
      const value = sum()
      if (source[at++] !== ')') throw new SyntaxError()
      return value
    }
    if (source[at] === '-') {
      at++
      return -number()
    }
    if (source[at] === '+') {
      at++
      return number()
    }
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
    while (source[at] === '+' || source[at] === '-')
      value = source[at++] === '+' ? value + product() : value - product()
    return value
  }
  try {
    const value = sum()
    return at === source.length && Number.isFinite(value) ? value : null
  } catch {
    return null
  }
}
