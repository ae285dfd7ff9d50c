/**
 * SVG path data to outlines. Source: SVG 2, chapter 9 "Paths": the grammar of 9.3.9, and appendix B.2.4 for arcs given by their end points.
 */
import { type Point } from './fill'

/** How far a piece of the flattened outline may lie from the true curve, px. */
const TOLERANCE = 0.02
const MOST_PIECES = 10_000

/** What is wrong with the data, and at which character. */
export class PathError extends Error {}

const ARGUMENTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 }
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y
const SEPARATOR = /[\s,]*/y

interface Command { letter: string; values: number[] }

/** Reads the commands; a letter's arguments may repeat. Throws PathError. */
function read(d: string): Command[] {
  const commands: Command[] = []
  let at = 0
  const skip = () => { SEPARATOR.lastIndex = at; SEPARATOR.exec(d); at = SEPARATOR.lastIndex }
  const number = (flag: boolean): number => {
    skip()
    if (flag) { // the two flags of an arc may stand without anything between them and what follows
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
    if (count === undefined || letter === ',') throw new PathError(`“${letter}” at character ${at + 1} is no path command`)
    if (!commands.length && letter.toUpperCase() !== 'M') throw new PathError('a path begins with M or m')
    at++
    do {
      commands.push({ letter, values: Array.from({ length: count }, (_, i) => number(letter.toUpperCase() === 'A' && (i === 3 || i === 4))) })
      if (letter === 'M') letter = 'L'
      if (letter === 'm') letter = 'l'
      skip()
    } while (count > 0 && at < d.length && /[\d.+-]/.test(d[at]))
  }
  return commands
}

/** Flattened outlines, one for each subpath, px. Throws PathError. */
export function pathOutlines(d: string): Point[][] {
  const outlines: Point[][] = []
  let outline: Point[] = []
  let x = 0, y = 0, startX = 0, startY = 0
  let control: Point | null = null, previous = ''
  const to = (nx: number, ny: number) => { outline.push([nx, ny]); x = nx; y = ny }
  for (const { letter, values: v } of read(d)) {
    const upper = letter.toUpperCase(), relative = letter !== upper
    const px = (i: number) => v[i] + (relative ? x : 0), py = (i: number) => v[i] + (relative ? y : 0)
    const mirrored = (kinds: string): Point => (control && kinds.includes(previous) ? [2 * x - control[0], 2 * y - control[1]] : [x, y])
    let next: Point | null = null
    if (upper === 'M') { x = px(0); y = py(1); startX = x; startY = y; outline = [[x, y]]; outlines.push(outline) }
    else if (upper === 'Z') { x = startX; y = startY; outline = [[x, y]]; outlines.push(outline) }
    else if (upper === 'L') to(px(0), py(1))
    else if (upper === 'H') to(px(0), y)
    else if (upper === 'V') to(x, v[0] + (relative ? y : 0))
    else if (upper === 'C') { next = [px(2), py(3)]; cubic(outline, [x, y], [px(0), py(1)], next, [px(4), py(5)]); [x, y] = [px(4), py(5)] }
    else if (upper === 'S') { const first = mirrored('CS'); next = [px(0), py(1)]; cubic(outline, [x, y], first, next, [px(2), py(3)]); [x, y] = [px(2), py(3)] }
    else if (upper === 'Q') { next = [px(0), py(1)]; quadratic(outline, [x, y], next, [px(2), py(3)]); [x, y] = [px(2), py(3)] }
    else if (upper === 'T') { next = mirrored('QT'); quadratic(outline, [x, y], next, [px(0), py(1)]); [x, y] = [px(0), py(1)] }
    else { const end: Point = [px(5), py(6)]; arc(outline, [x, y], v[0], v[1], v[2], v[3] === 1, v[4] === 1, end); [x, y] = end }
    control = next
    previous = upper
  }
  return outlines.filter((points) => points.length > 1)
}

/** Pieces so that none leaves a curve of this degree by more than the tolerance (Wang's bound from the second differences). */
const pieces = (degree: number, secondDifference: number): number => Math.min(MOST_PIECES, Math.max(1, Math.ceil(Math.sqrt((degree * (degree - 1) * secondDifference) / (8 * TOLERANCE)))))
const bend = ([ax, ay]: Point, [bx, by]: Point, [cx, cy]: Point): number => Math.hypot(ax - 2 * bx + cx, ay - 2 * by + cy)

function cubic(out: Point[], a: Point, b: Point, c: Point, d: Point): void {
  const count = pieces(3, Math.max(bend(a, b, c), bend(b, c, d)))
  for (let i = 1; i <= count; i++) {
    const t = i / count, u = 1 - t
    out.push([u * u * u * a[0] + 3 * u * u * t * b[0] + 3 * u * t * t * c[0] + t * t * t * d[0], u * u * u * a[1] + 3 * u * u * t * b[1] + 3 * u * t * t * c[1] + t * t * t * d[1]])
  }
}

function quadratic(out: Point[], a: Point, b: Point, c: Point): void {
  const count = pieces(2, bend(a, b, c))
  for (let i = 1; i <= count; i++) {
    const t = i / count, u = 1 - t
    out.push([u * u * a[0] + 2 * u * t * b[0] + t * t * c[0], u * u * a[1] + 2 * u * t * b[1] + t * t * c[1]])
  }
}

/** SVG 2, B.2.4: from end points to centre; B.2.5: a radius of zero is a line, radii too small are scaled up. */
function arc(out: Point[], [x1, y1]: Point, rx: number, ry: number, degrees: number, large: boolean, sweep: boolean, [x2, y2]: Point): void {
  rx = Math.abs(rx); ry = Math.abs(ry)
  if (rx === 0 || ry === 0 || (x1 === x2 && y1 === y2)) { out.push([x2, y2]); return }
  const phi = (degrees * Math.PI) / 180, cos = Math.cos(phi), sin = Math.sin(phi)
  const hx = (x1 - x2) / 2, hy = (y1 - y2) / 2
  const px = cos * hx + sin * hy, py = -sin * hx + cos * hy
  const lambda = (px / rx) ** 2 + (py / ry) ** 2
  if (lambda > 1) { rx *= Math.sqrt(lambda); ry *= Math.sqrt(lambda) }
  const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, (rx * rx * ry * ry - rx * rx * py * py - ry * ry * px * px) / (rx * rx * py * py + ry * ry * px * px)))
  const cxr = (k * rx * py) / ry, cyr = (-k * ry * px) / rx
  const cx = cos * cxr - sin * cyr + (x1 + x2) / 2, cy = sin * cxr + cos * cyr + (y1 + y2) / 2
  const start = Math.atan2((py - cyr) / ry, (px - cxr) / rx)
  let span = Math.atan2((-py - cyr) / ry, (-px - cxr) / rx) - start
  if (sweep && span < 0) span += 2 * Math.PI
  if (!sweep && span > 0) span -= 2 * Math.PI
  const step = 2 * Math.acos(1 - Math.min(1, TOLERANCE / Math.max(rx, ry)))
  const count = Math.min(MOST_PIECES, Math.max(2, Math.ceil(Math.abs(span) / step)))
  for (let i = 1; i < count; i++) {
    const angle = start + (span * i) / count, ex = rx * Math.cos(angle), ey = ry * Math.sin(angle)
    out.push([cos * ex - sin * ey + cx, sin * ex + cos * ey + cy])
  }
  out.push([x2, y2])
}
