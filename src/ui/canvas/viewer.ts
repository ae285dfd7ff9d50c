/**
 * What the canvas shows: asks for the tiles and overlays in view, draws what is there and never waits for what is not.
 * Two surfaces: the picture with its overlay, and above it the marching outline.
 */
import { type Size } from '@/core/raster/picture'
import { type Engine } from '@/engine/page/engine'
import { type OverlayStyle, TILE } from '@/engine/page/protocol'
import { Camera } from './camera'
import { mark } from './marks'
import { Overlays } from './overlays'
import { TileStore } from './tileStore'

const SURROUND = '#8a8a8a'
/** Tiles that arrive within so long are drawn in one frame, ms; the last one in view at once. */
const TOGETHER_MS = 90
/** A cover is shown so many times as large at most where there is anything else. */
const COVER_STRETCHED = 2

export class Viewer extends Camera {
  private epoch = 0
  private making = true
  private readonly tiles: TileStore
  private readonly overlays: Overlays
  /** As the project looked when it was last shown: stands in while it is opening. */
  private cover: ImageBitmap | null = null
  /** Some of the pictures and masks of a project that is opening are not there yet. */
  private partly = false
  private divider: number | null = null
  private frame = 0
  private drawSoon: ReturnType<typeof setTimeout> | undefined
  private readonly drawn = new Set<() => void>()

  constructor(
    private readonly picture: HTMLCanvasElement,
    private readonly outline: HTMLCanvasElement,
    engine: () => Engine | null,
  ) {
    super()
    this.tiles = new TileStore(
      engine,
      () => this.tilesArrived(),
      () => this.requestTiles(),
    )
    this.overlays = new Overlays(
      outline,
      engine,
      () => this.viewport(),
      () => this.schedule(),
    )
  }

  // ---- the whole picture, small
  /** The coarsest tile, where it is there, and how many canvas px its pixels are wide. */
  wholeTile(): { tile: ImageBitmap | undefined; pixel: number } {
    return {
      tile: this.tiles.use({ level: this.coarsest, x: 0, y: 0, before: false }),
      pixel: 2 ** this.coarsest,
    }
  }
  /** @returns what ends it */
  whenDrawn(listener: () => void): () => void {
    this.drawn.add(listener)
    return () => this.drawn.delete(listener)
  }

  // ---- for the page
  resize(cssWidth: number, cssHeight: number, ratio: number): void {
    const size = {
      width: Math.max(1, Math.round(cssWidth * ratio)),
      height: Math.max(1, Math.round(cssHeight * ratio)),
    }
    Object.assign(this.picture, size)
    Object.assign(this.outline, size)
    this.setSurface(size, ratio)
    this.draw() // a resized surface is empty: draw in the same frame
  }
  setCanvas(canvas: Size): void {
    const same = canvas.width === this.canvas.width && canvas.height === this.canvas.height
    this.canvas = canvas
    if (!same) {
      this.tiles.drop()
      this.fit()
    }
  }
  /** How the project looked when it was last shown: stands in until all of that is there again; too late it is let go. */
  setCover(cover: ImageBitmap): void {
    if (this.tiles.size && !this.partly) {
      cover.close()
      return
    }
    this.cover?.close()
    this.cover = cover
    this.schedule()
  }
  layersChanged(epoch: number, partly: boolean): void {
    this.epoch = epoch
    this.partly = partly
    delete this.picture.dataset.final
    this.requestTiles()
    this.schedule()
  }
  /** Something of the layers is still being made: what is drawn is not final. */
  setMaking(making: boolean): void {
    this.making = making
    if (making) delete this.picture.dataset.final
    this.schedule()
  }
  matteChanged(): void {
    this.overlays.refresh()
  }
  setOverlay(style: OverlayStyle | null): void {
    this.overlays.setStyle(style)
    this.schedule()
  }
  /** Left of this canvas x the picture is shown as it came. */
  setDivider(x: number | null): void {
    this.divider = x
    this.requestTiles()
    this.schedule()
    this.overlays.setDivider(x)
  }
  override close(): void {
    super.close()
    cancelAnimationFrame(this.frame)
    clearTimeout(this.drawSoon)
    this.overlays.close()
    this.tiles.drop()
    this.cover?.close()
    this.drawn.clear()
  }

  // ---- inside
  protected moved(): void {
    this.requestTiles()
    this.overlays.refresh()
    this.schedule()
  }
  private schedule(): void {
    if (!this.frame)
      this.frame = requestAnimationFrame(() => {
        this.frame = 0
        clearTimeout(this.drawSoon)
        this.drawSoon = undefined
        this.draw()
      })
  }
  /** What arrives is drawn together: without a graphics processor each frame takes time that the tiles still to come would have. */
  private tilesArrived(): void {
    if (this.isComplete(this.level)) this.schedule()
    else this.drawSoon ??= setTimeout(() => this.schedule(), TOGETHER_MS)
  }
  private get level(): number {
    return Math.min(this.coarsest, Math.max(0, Math.floor(-Math.log2(this.view.scale) + 0.02)))
  }
  private get coarsest(): number {
    return Math.max(0, Math.ceil(Math.log2(Math.max(this.canvas.width, this.canvas.height) / TILE)))
  }
  /** Tiles of a level that lie in view, the middle first. */
  private inView(level: number): [x: number, y: number][] {
    const { left, top, right, bottom } = this.shown(this.view),
      side = TILE * 2 ** level
    const last = (length: number) => Math.ceil(length / side) - 1
    const fromX = Math.max(0, Math.floor(left / side)),
      toX = Math.min(last(this.canvas.width), Math.floor(right / side))
    const fromY = Math.max(0, Math.floor(top / side)),
      toY = Math.min(last(this.canvas.height), Math.floor(bottom / side))
    const out: [number, number][] = []
    for (let y = fromY; y <= toY; y++) for (let x = fromX; x <= toX; x++) out.push([x, y])
    const middleX = (fromX + toX) / 2,
      middleY = (fromY + toY) / 2
    return out.sort((a, b) => Math.hypot(a[0] - middleX, a[1] - middleY) - Math.hypot(b[0] - middleX, b[1] - middleY))
  }

  private requestTiles(): void {
    const inView = this.inView(this.level).map(([x, y]) => ({ level: this.level, x, y, before: false })),
      coarsest = { level: this.coarsest, x: 0, y: 0, before: false }
    // The coarsest tile stands in where others are missing: it comes first when there is nothing yet, last when it is only out of date.
    const wanted = this.tiles.has(coarsest) ? [...inView, coarsest] : [coarsest, ...inView]
    if (this.divider !== null)
      wanted.push(
        ...wanted
          .filter(({ level, x }) => x * TILE * 2 ** level < this.divider!)
          .map((place) => ({ ...place, before: true })),
      )
    this.tiles.request(wanted, this.epoch)
  }

  private draw(): void {
    const context = this.picture.getContext('2d')!
    const { left, top, scale } = this.view
    const x0 = Math.round(-left * scale),
      y0 = Math.round(-top * scale)
    const width = Math.round((this.canvas.width - left) * scale) - x0,
      height = Math.round((this.canvas.height - top) * scale) - y0
    context.fillStyle = SURROUND
    context.fillRect(0, 0, this.picture.width, this.picture.height)
    context.save()
    context.beginPath()
    context.rect(x0, y0, width, height)
    context.clip()
    const behind = this.overlays.style?.behind
    context.fillStyle = behind && behind !== 'checks' ? behind : this.checks(context)
    context.fillRect(x0, y0, width, height)
    const level = this.level
    // Until masks are there pictures would show whole where the cover shows them masked.
    const coarse = this.cover && width > COVER_STRETCHED * this.cover.width
    if (this.tiles.size && (coarse || (!this.partly && this.isComplete(level)))) {
      this.cover?.close()
      this.cover = null
    }
    let complete = false
    if (this.cover) {
      context.imageSmoothingQuality = 'high'
      context.drawImage(this.cover, x0, y0, width, height)
      mark('wily:cover', scale)
    } else complete = this.drawTiles(context, level, false)
    this.overlays.drawOver(context)
    if (this.divider !== null) {
      const left = Math.round((this.divider - this.view.left) * scale)
      context.beginPath()
      context.rect(x0, y0, left - x0, height)
      context.clip()
      context.fillStyle = this.checks(context)
      context.fillRect(x0, y0, left - x0, height)
      this.drawTiles(context, level, true)
    }
    context.restore()
    if (this.overlays.marching) this.overlays.drawAnts()
    for (const listener of this.drawn) listener()
    if (complete && this.tiles.size > 0 && this.isComplete(level)) {
      mark('wily:picture', scale)
      if (!this.making) this.picture.dataset.final = 'yes'
      else delete this.picture.dataset.final
    }
  }

  private pattern: CanvasPattern | null = null
  /** What shows where nothing is. */
  checks(context: CanvasRenderingContext2D): CanvasPattern | string {
    if (!this.pattern) {
      const tile = new OffscreenCanvas(16, 16),
        paint = tile.getContext('2d')!
      paint.fillStyle = '#ffffff'
      paint.fillRect(0, 0, 16, 16)
      paint.fillStyle = '#cfcfcf'
      paint.fillRect(8, 0, 8, 8)
      paint.fillRect(0, 8, 8, 8)
      this.pattern = context.createPattern(tile, 'repeat')
    }
    return this.pattern ?? '#ffffff'
  }

  private isThere(level: number, before: boolean): boolean {
    return this.inView(level).every(([x, y]) => this.tiles.has({ level, x, y, before }))
  }
  /** Every tile in view is there, and of the layers as they are now. */
  private isComplete(level: number): boolean {
    return this.inView(level).every(([x, y]) => this.tiles.isOf({ level, x, y, before: false }, this.epoch))
  }

  /** A level's tiles in view, over coarser ones where some are missing. True when none is. */
  private drawTiles(context: CanvasRenderingContext2D, level: number, before: boolean): boolean {
    const complete = this.isThere(level, before)
    context.imageSmoothingEnabled = this.view.scale < 2
    context.imageSmoothingQuality = 'low' // tiles are shown at half their size at the least, where bilinear is enough
    if (!complete)
      for (let n = this.coarsest; n > level; n--)
        for (const [x, y] of this.inView(n)) this.drawTile(context, n, x, y, before)
    for (const [x, y] of this.inView(level)) this.drawTile(context, level, x, y, before)
    return complete
  }

  /** Edges fall on whole device pixels, so neighbours leave no seam. */
  private drawTile(context: CanvasRenderingContext2D, level: number, x: number, y: number, before: boolean): void {
    const bitmap = this.tiles.use({ level, x, y, before })
    if (!bitmap) return
    const { left, top, scale } = this.view,
      side = TILE * 2 ** level,
      pixel = 2 ** level
    const x0 = Math.round((x * side - left) * scale),
      y0 = Math.round((y * side - top) * scale)
    const x1 = Math.round((x * side + bitmap.width * pixel - left) * scale),
      y1 = Math.round((y * side + bitmap.height * pixel - top) * scale)
    context.drawImage(bitmap, x0, y0, x1 - x0, y1 - y0)
  }
}
