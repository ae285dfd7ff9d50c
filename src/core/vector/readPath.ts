/** SVG path data to commands. Source: SVG 2, section 9.3.9 (the grammar). */

/** What is wrong with the data, and at which character. */
export class PathError extends Error {}

const ARGUMENTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 }
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y
const SEPARATOR = /[\s,]*/y

interface Command {
  letter: string
  values: number[]
}

/** Reads the commands; a letter's arguments may repeat. Throws PathError. */
export function read(d: string): Command[] {
  const commands: Command[] = []
  let at = 0
  const skip = () => {
    SEPARATOR.lastIndex = at
    SEPARATOR.exec(d)
    at = SEPARATOR.lastIndex
  }
  const number = (flag: boolean): number => {
    skip()
    if (flag) {
      // the two flags of an arc may stand without anything between them and what follows
      if (d[at] !== '0' && d[at] !== '1') throw new PathError(`a flag (0 or 1) is missing at character ${at + 1}`)
      return Number(d[at++])
    }
    NUMBER.lastIndex = at
    const match = NUMBER.exec(d)
    if (!match) throw new PathError(`a number is missing at character ${at + 1}`)
    at = NUMBER.lastIndex
    return Number(match[0])
  }
  skip()
  while (at < d.length) {
    let letter = d[at]
    const count = ARGUMENTS[letter.toUpperCase()]
    if (count === undefined || letter === ',')
      throw new PathError(`“${letter}” at character ${at + 1} is no path command`)
    if (!commands.length && letter.toUpperCase() !== 'M') throw new PathError('a path begins with M or m')
    at++
    do {
      commands.push({
        letter,
        values: Array.from({ length: count }, (_, i) => number(letter.toUpperCase() === 'A' && (i === 3 || i === 4))),
      })
      if (letter === 'M') letter = 'L'
      if (letter === 'm') letter = 'l'
      skip()
    } while (count > 0 && at < d.length && /[\d.+-]/.test(d[at]))
  }
  return commands
}
