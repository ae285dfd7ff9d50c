/** What lies below an effect or a changing layer, drawn by tiles and remembered under everything that decides it, up to a number of bytes. */
import { LruCache } from '../cache/lruCache'
import { type Size } from '../raster/picture'
import { type Node } from './nodes'
import { type Region } from './region'

/** Side of the tiles that are remembered, px. */
export const TILE = 256
/** Where less than one in so many of a tile's pixels is needed, only those are drawn, in strips of so many px. */
const LITTLE = 4,
  STRIP = 16
/** So many texts are given numbers before that begins anew. */
const MOST_IDS = 100_000

/** Some first nodes of a list, on what lies below the list. Its id stands for all it shows. */
export interface Below {
  readonly id: number
  readonly nodes: readonly Node[]
  readonly count: number
  readonly base: Below | null
}

const keyOf = ({ id }: Below, { level, x, y, width, height }: Region): string =>
  `${id} ${level}/${x}/${y}/${width}/${height}`

/** Of a tile that little is needed of, that part, in whole strips; otherwise the tile. Round about what is looked at effects need a margin only. */
function partNeeded(tile: Region, left: number, right: number, top: number, bottom: number): Region {
  const down = (at: number, origin: number) => Math.max(0, Math.floor((at - origin) / STRIP) * STRIP)
  const up = (at: number, origin: number, most: number) => Math.min(most, Math.ceil((at + 1 - origin) / STRIP) * STRIP)
  const x0 = down(left, tile.x),
    y0 = down(top, tile.y),
    width = up(right, tile.x, tile.width) - x0,
    height = up(bottom, tile.y, tile.height) - y0
  if (width * height * LITTLE > tile.width * tile.height) return tile
  return { level: tile.level, x: tile.x + x0, y: tile.y + y0, width, height }
}

export class BelowTiles {
  private readonly tiles: LruCache
  private readonly ids = new Map<string, number>()
  private lastId = 1

  /** @param bytes how much may be kept @param draw draws a region of what lies below */
  constructor(
    bytes: number,
    private readonly settings: () => { readonly canvas: Size; readonly linear?: boolean },
    private readonly draw: (below: Below, region: Region) => Float32Array,
  ) {
    this.tiles = new LruCache(bytes)
  }

  /** A number for what has no key, so that it is not found again. */
  newId(): number {
    return this.lastId++
  }
  forgetNames(): void {
    if (this.ids.size > MOST_IDS) this.ids.clear()
  }

  /** The first `count` of the nodes as something to be drawn and remembered; null when one of them has no key. */
  of(nodes: readonly Node[], count: number, base: Below | null): Below | null {
    const { linear, canvas } = this.settings()
    let id = this.idOf(base ? `${base.id}` : `${linear ? 'linear' : 'encoded'} ${canvas.width}×${canvas.height}`)
    for (let i = 0; i < count; i++) {
      const { key } = nodes[i]
      if (key === undefined) return null
      id = this.idOf(`${id} ${key}`)
    }
    return { id, nodes, count, base }
  }
  private idOf(key: string): number {
    let id = this.ids.get(key)
    if (id === undefined) this.ids.set(key, (id = this.lastId++))
    return id
  }

  private knows(below: Below, region: Region): boolean {
    return this.tiles.get(keyOf(below, region)) !== undefined
  }
  /** A tile of what lies below, or a part of one, remembered. */
  tile(below: Below, region: Region): Float32Array {
    const key = keyOf(below, region)
    const known = this.tiles.get<Float32Array>(key)
    if (known) return known
    const made = this.draw(below, region)
    this.tiles.set(key, made, made.byteLength)
    return made
  }

  /** Pixels of what lies below, tile by tile; beyond the canvas its edge pixels go on. @param into gives the memory they go to: drawing may move it */
  gather(below: Below, region: Region, sparing: boolean, into: () => Float32Array): void {
    const { canvas } = this.settings(),
      side = 2 ** region.level
    const width = Math.ceil(canvas.width / side),
      height = Math.ceil(canvas.height / side)
    const clamp = (v: number, most: number) => (v < 0 ? 0 : v > most ? most : v)
    const left = clamp(region.x, width - 1),
      right = clamp(region.x + region.width - 1, width - 1),
      top = clamp(region.y, height - 1),
      bottom = clamp(region.y + region.height - 1, height - 1)
    const take = (tile: Region, data: Float32Array) => {
      const out = into(),
        x0 = Math.max(left, tile.x),
        x1 = Math.min(right + 1, tile.x + tile.width)
      for (let y = Math.max(top, tile.y); y <= Math.min(bottom, tile.y + tile.height - 1); y++) {
        const start = ((y - tile.y) * tile.width + x0 - tile.x) * 4
        out.set(data.subarray(start, start + (x1 - x0) * 4), ((y - region.y) * region.width + x0 - region.x) * 4)
      }
    }
    if (sparing) {
      const part: Region = { level: region.level, x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
      take(part, this.draw(below, part))
    } else
      for (let ty = Math.floor(top / TILE); ty <= Math.floor(bottom / TILE); ty++) {
        for (let tx = Math.floor(left / TILE); tx <= Math.floor(right / TILE); tx++) {
          const tile: Region = {
            level: region.level,
            x: tx * TILE,
            y: ty * TILE,
            width: Math.min(TILE, width - tx * TILE),
            height: Math.min(TILE, height - ty * TILE),
          }
          const part = this.knows(below, tile) ? tile : partNeeded(tile, left, right, top, bottom)
          take(part, this.tile(below, part))
        }
      }
    extendEdges(into(), region, left, right, top, bottom)
  }
}

/** Beyond the canvas its edge pixels go on. */
function extendEdges(
  out: Float32Array,
  region: Region,
  left: number,
  right: number,
  top: number,
  bottom: number,
): void {
  const { width } = region
  for (let y = top - region.y; y <= bottom - region.y; y++) {
    const row = y * width * 4,
      first = row + (left - region.x) * 4,
      last = row + (right - region.x) * 4
    for (let i = row; i < first; i += 4) out.copyWithin(i, first, first + 4)
    for (let i = last + 4; i < row + width * 4; i += 4) out.copyWithin(i, last, last + 4)
  }
  const firstRow = (top - region.y) * width * 4,
    lastRow = (bottom - region.y) * width * 4
  for (let y = 0; y < top - region.y; y++) out.copyWithin(y * width * 4, firstRow, firstRow + width * 4)
  for (let y = bottom - region.y + 1; y < region.height; y++)
    out.copyWithin(y * width * 4, lastRow, lastRow + width * 4)
}
