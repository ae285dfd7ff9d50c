/**
 * Where the content lies inside a roughly drawn box: what is not transparent where there is transparency, else what differs from
 * the colour that dominates the box's border by more than that colour varies there.
 */
import { type Picture } from './picture'

export interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Alpha below this is as good as nothing. */
const LEAST_ALPHA = 8
/** Thickness of the border that is looked at, px. */
const BORDER = 2
/** A channel differs when it is off by more than this many of the border's standard deviations, and by more than that many levels. */
const DEVIATIONS = 4,
  LEAST_LEVELS = 12
/** Border colours are counted in cells of this many levels; those within NEAR levels of what is found so far belong to it. */
const CELL = 16,
  NEAR = 10
/** How often the dominant colour is followed further along the border. */
const ROUNDS = 8
/** So many of the fullest cells are tried; the one that can be followed furthest is the dominant colour. */
const SEEDS = 6
/** A row or column with fewer differing pixels than this share of it, or fewer than LEAST_RUN, holds only specks. */
const SPECKS = 0.004,
  LEAST_RUN = 2

/** The upright box around the content, on whole pixels; null when nothing inside differs, or the box holds no pixels. */
export function contentBox(picture: Picture, box: Box): Box | null {
  const left = Math.max(0, Math.floor(box.x)),
    top = Math.max(0, Math.floor(box.y)),
    right = Math.min(picture.width, Math.ceil(box.x + box.width)),
    bottom = Math.min(picture.height, Math.ceil(box.y + box.height))
  if (right <= left || bottom <= top) return null
  const { data, width } = picture
  const inBorder = (x: number, y: number) =>
    x < left + BORDER || y < top + BORDER || x >= right - BORDER || y >= bottom - BORDER
  let transparent = false
  for (let y = top; y < bottom && !transparent; y++)
    for (let x = left; x < right; x++)
      if (data[(y * width + x) * 4 + 3] < LEAST_ALPHA) {
        transparent = true
        break
      }
  const differs = transparent
    ? (i: number) => data[i + 3] >= LEAST_ALPHA
    : differsFromBorder(picture, left, top, right, bottom, inBorder)
  const rows = new Uint32Array(bottom - top),
    columns = new Uint32Array(right - left)
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++)
      if (differs((y * width + x) * 4)) {
        rows[y - top]++
        columns[x - left]++
      }
  const span = (counts: Uint32Array, across: number): [number, number] | null => {
    const least = transparent ? 1 : Math.max(LEAST_RUN, SPECKS * across)
    const from = counts.findIndex((n) => n >= least)
    return from < 0 ? null : [from, counts.findLastIndex((n) => n >= least) + 1]
  }
  const down = span(rows, right - left),
    over = span(columns, bottom - top)
  return down && over
    ? { x: left + over[0], y: top + down[0], width: over[1] - over[0], height: down[1] - down[0] }
    : null
}

function differsFromBorder(
  { data, width }: Picture,
  left: number,
  top: number,
  right: number,
  bottom: number,
  inBorder: (x: number, y: number) => boolean,
): (i: number) => boolean {
  const border: number[] = []
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      if (inBorder(x, y)) border.push((y * width + x) * 4)
      else x = Math.max(x, right - BORDER - 1)
    }
  const cells = new Map<number, number[]>()
  for (const i of border) {
    const cell =
      Math.floor(data[i] / CELL) * 65536 + Math.floor(data[i + 1] / CELL) * 256 + Math.floor(data[i + 2] / CELL)
    const list = cells.get(cell)
    if (list) list.push(i)
    else cells.set(cell, [i])
  }
  const seeds = [...cells.values()].sort((a, b) => b.length - a.length).slice(0, SEEDS)
  const { model, spread } = seeds
    .map((seed) => followed(seed, border, data, width))
    .reduce((best, next) => (next.count > best.count ? next : best))
  const most = spread.map((deviation) => Math.max(LEAST_LEVELS, DEVIATIONS * deviation))
  return (i) => model.some((plane, channel) => Math.abs(data[i + channel] - valueAt(plane, i, width)) > most[channel])
}

/** From the pixels of one cell a colour is followed along the border: it may change evenly across the box, as light on a wall does. */
function followed(
  seed: readonly number[],
  border: readonly number[],
  data: Uint8ClampedArray,
  width: number,
): { model: Plane[]; spread: number[]; count: number } {
  let members = seed,
    spread = [CELL, CELL, CELL]
  let model = [0, 1, 2].map((channel): Plane => [
    seed.reduce((sum, i) => sum + data[i + channel], 0) / seed.length,
    0,
    0,
  ])
  for (let round = 0; round < ROUNDS; round++) {
    members = border.filter((i) =>
      model.every((plane, channel) => Math.abs(data[i + channel] - valueAt(plane, i, width)) <= NEAR + spread[channel]),
    )
    if (!members.length) return { model, spread, count: 0 }
    model = [0, 1, 2].map((channel) => fitPlane(members, (i) => data[i + channel], width))
    spread = model.map((plane, channel) =>
      Math.sqrt(
        members.reduce((sum, i) => sum + (data[i + channel] - valueAt(plane, i, width)) ** 2, 0) / members.length,
      ),
    )
  }
  return { model, spread, count: members.length }
}

/** A value that changes evenly across the picture: at the corner, and by how much for each px across and down. */
type Plane = readonly [number, number, number]
const valueAt = ([base, across, down]: Plane, i: number, width: number): number =>
  base + across * ((i >> 2) % width) + down * Math.floor((i >> 2) / width)

/** Least squares; where the places lie on one line only their mean. */
function fitPlane(members: readonly number[], value: (i: number) => number, width: number): Plane {
  const n = members.length
  let mx = 0,
    my = 0,
    mv = 0
  for (const i of members) {
    mx += ((i >> 2) % width) / n
    my += Math.floor((i >> 2) / width) / n
    mv += value(i) / n
  }
  let xx = 0,
    xy = 0,
    yy = 0,
    xv = 0,
    yv = 0
  for (const i of members) {
    const x = ((i >> 2) % width) - mx,
      y = Math.floor((i >> 2) / width) - my,
      v = value(i) - mv
    xx += x * x
    xy += x * y
    yy += y * y
    xv += x * v
    yv += y * v
  }
  const det = xx * yy - xy * xy
  if (det <= 1e-6 * xx * yy || det === 0) return [mv, 0, 0]
  const across = (xv * yy - yv * xy) / det,
    down = (yv * xx - xv * xy) / det
  return [mv - across * mx - down * my, across, down]
}
