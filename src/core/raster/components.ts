/**
 * Connected pieces of a matte's outside. Labels by runs along rows, joined with union-find.
 * Source: He, Chao and Suzuki, "A run-based two-scan labeling algorithm", IEEE Trans. Image Processing 17 (2008).
 */
import { type Matte } from './picture'

/**
 * Fills (with 255, in place) the pieces of pixels below 50 % that have at most `maxArea` pixels; with `atBorder` false only those
 * that do not touch the matte's border. Pieces hang together by their sides. Soft pixels that only face filled ones are filled too.
 */
export function fillComponents({ width, height, data }: Matte, maxArea: number, atBorder: boolean): void {
  const runs = outsideRuns(data, width, height)
  const { starts, ends, firstOfRow } = runs
  const parent = new Int32Array(starts.length).map((_, i) => i)
  const rootOf = (i: number): number => {
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]]
      i = parent[i]
    }
    return i
  }
  for (let y = 1; y < height; y++) {
    let above = firstOfRow[y - 1]
    for (let run = firstOfRow[y]; run < firstOfRow[y + 1]; run++) {
      while (above < firstOfRow[y] && ends[above] <= starts[run]) above++
      for (let other = above; other < firstOfRow[y] && starts[other] < ends[run]; other++) {
        const a = rootOf(run),
          b = rootOf(other)
        if (a !== b) parent[Math.max(a, b)] = Math.min(a, b)
      }
    }
  }
  const areas = new Float64Array(starts.length),
    open = new Uint8Array(starts.length)
  for (let y = 0; y < height; y++)
    for (let run = firstOfRow[y]; run < firstOfRow[y + 1]; run++) {
      const root = rootOf(run)
      areas[root] += ends[run] - starts[run]
      if (y === 0 || y === height - 1 || starts[run] === 0 || ends[run] === width) open[root] = 1
    }
  const filled: number[] = [] // y, start, end
  for (let y = 0; y < height; y++)
    for (let run = firstOfRow[y]; run < firstOfRow[y + 1]; run++) {
      const root = rootOf(run)
      if (areas[root] > maxArea || (!atBorder && open[root])) continue
      data.fill(255, y * width + starts[run], y * width + ends[run])
      filled.push(y, starts[run], ends[run])
    }
  for (let k = 0; k < filled.length; k += 3) fillRim(data, width, height, filled[k], filled[k + 1], filled[k + 2])
}

interface Runs {
  starts: number[]
  ends: number[]
  firstOfRow: Int32Array
}

function outsideRuns(data: Uint8Array, width: number, height: number): Runs {
  const starts: number[] = [],
    ends: number[] = [],
    firstOfRow = new Int32Array(height + 1)
  for (let y = 0; y < height; y++) {
    firstOfRow[y] = starts.length
    for (let x = 0, row = y * width; x < width; x++) {
      if (data[row + x] >= 128) continue
      starts.push(x)
      while (x < width && data[row + x] < 128) x++
      ends.push(x)
    }
  }
  firstOfRow[height] = starts.length
  return { starts, ends, firstOfRow }
}

/** The soft pixels around a filled run lose their softness, unless they also face an outside that stays. */
function fillRim(data: Uint8Array, width: number, height: number, y: number, start: number, end: number): void {
  const soften = (x: number, row: number) => {
    if (x < 0 || row < 0 || x >= width || row >= height) return
    const i = row * width + x
    if (data[i] === 255 || data[i] < 128) return
    const faces =
      (x > 0 && data[i - 1] < 128) ||
      (x < width - 1 && data[i + 1] < 128) ||
      (row > 0 && data[i - width] < 128) ||
      (row < height - 1 && data[i + width] < 128)
    if (!faces) data[i] = 255
  }
  for (let x = start - 1; x <= end; x++) {
    soften(x, y - 1)
    soften(x, y)
    soften(x, y + 1)
  }
}
