/** The tiles that are there: asked for in an order, a few at a time, kept up to a number, the ones not drawn for longest go first. */
import { type Engine } from '@/engine/page/engine'

interface Tile {
  bitmap: ImageBitmap
  epoch: number
  used: number
}

/** A place of the canvas at 1 / 2^level; `before`: as the pictures came. */
export interface TilePlace {
  readonly level: number
  readonly x: number
  readonly y: number
  readonly before: boolean
}

const MOST_TILES = 480
const TILES_AT_ONCE = 14
/** A tile that could not be drawn is asked for again after so long, ms. */
const TILE_AGAIN_MS = 1000

const keyOf = ({ level, x, y, before }: TilePlace): string => `${before ? 'before ' : ''}${level}/${x}/${y}`

export class TileStore {
  private readonly tiles = new Map<string, Tile>()
  private readonly asked = new Set<string>()

  /** @param arrived is told of each tile that has come @param next asks for those that are wanted by then */
  constructor(
    private readonly engine: () => Engine | null,
    private readonly arrived: () => void,
    private readonly next: () => void,
  ) {}

  get size(): number {
    return this.tiles.size
  }
  has(place: TilePlace): boolean {
    return this.tiles.has(keyOf(place))
  }
  /** Made of the layers as they are under this number. */
  isOf(place: TilePlace, epoch: number): boolean {
    return this.tiles.get(keyOf(place))?.epoch === epoch
  }
  /** To be drawn now. */
  use(place: TilePlace): ImageBitmap | undefined {
    const tile = this.tiles.get(keyOf(place))
    if (tile) tile.used = performance.now()
    return tile?.bitmap
  }

  /** Asks for those that are not there yet, or out of date, the first ones first. */
  request(wanted: readonly TilePlace[], epoch: number): void {
    const engine = this.engine()
    if (!engine || epoch === 0) return
    for (const place of wanted) {
      if (this.asked.size >= TILES_AT_ONCE) return
      const key = keyOf(place)
      if (this.tiles.get(key)?.epoch === epoch || this.asked.has(key)) continue
      this.asked.add(key)
      engine.tile(place.level, place.x, place.y, epoch, place.before).then(
        (bitmap) => {
          this.asked.delete(key)
          if (bitmap) {
            this.tiles.get(key)?.bitmap.close()
            this.tiles.set(key, { bitmap, epoch, used: performance.now() })
            this.trim()
            this.arrived()
          }
          this.next()
        },
        () => {
          this.asked.delete(key)
          setTimeout(() => this.next(), TILE_AGAIN_MS)
        },
      )
    }
  }

  private trim(): void {
    if (this.tiles.size <= MOST_TILES) return
    const oldest = [...this.tiles.entries()]
      .sort((a, b) => a[1].used - b[1].used)
      .slice(0, this.tiles.size - MOST_TILES)
    for (const [key, tile] of oldest) {
      tile.bitmap.close()
      this.tiles.delete(key)
    }
  }
  drop(): void {
    for (const tile of this.tiles.values()) tile.bitmap.close()
    this.tiles.clear()
  }
}
