/**
 * What the canvas shows: pans and zooms, asks for the tiles and overlays in view, draws what is there and never waits for what is not.
 * Two surfaces: the picture with its overlay, and above it the marching outline, which moves without the picture being redrawn.
 */
import { type Size } from '@/core/raster/picture'
import { type Engine } from '@/engine/page/engine'
import { type OverlayStyle, TILE, type Viewport } from '@/engine/page/protocol'
import { BAR_PX } from './ruler'
import { TileStore } from './tileStore'

export interface View {
  /** Canvas px at the surface's upper left corner. */ readonly left: number
  readonly top: number
  /** Device px for one canvas px. */ readonly scale: number
}
const SURROUND = '#8a8a8a'
const MIN_SCALE = 0.01,
  MAX_SCALE = 64
/** Around a picture that fits, CSS px; above it lies what says how it is shown. */
const FIT_MARGIN_PX = 28
const ANT_FRAME_MS = 180
/** Tiles that arrive within so long are drawn in one frame, ms; the last one in view at once. */
const TOGETHER_MS = 90

/** User Timing marks, the newest of each name: the journeys read when the picture in view was complete, at which scale, and when its overlay came. */
function mark(name: string, scale?: number): void {
  performance.clearMarks(name)
  performance.mark(name, { detail: scale })
}

export class Viewer {
  view: View = { left: 0, top: 0, scale: 1 }
  private canvas: Size = { width: 1, height: 1 }
  private epoch = 0
  private making = true
  private ratio = 1
  private readonly tiles: TileStore
  private overlayStyle: OverlayStyle | null = null
  private overlay: { bitmap: ImageBitmap; view: Viewport } | null = null
  private ants: { bitmaps: ImageBitmap[]; view: Viewport } = {
    bitmaps: [],
    view: { left: 0, top: 0, scale: 1, width: 1, height: 1 },
  }
  private divider: number | null = null
  private overlayBusy = false
  private overlayWanted = false
  private showAnts = false
  private frame = 0
  private drawSoon: ReturnType<typeof setTimeout> | undefined
  private antTimer: ReturnType<typeof setInterval> | undefined
  private antPhase = 0
  private ruler = 0
  private fitted = true
  private readonly listeners = new Set<() => void>()
  private readonly drawn = new Set<() => void>()

  constructor(
    private readonly picture: HTMLCanvasElement,
    private readonly outline: HTMLCanvasElement,
    private readonly engine: () => Engine | null,
  ) {
    this.tiles = new TileStore(
      engine,
      () => this.tilesArrived(),
      () => this.requestTiles(),
    )
  }

  // ---- the whole picture, small
  get whole(): Size {
    return this.canvas
  }
  /** The part of the canvas that is in view, canvas px; beyond the canvas where that is smaller. */
  shown({ left, top, scale }: View): { left: number; top: number; right: number; bottom: number } {
    return { left, top, right: left + this.picture.width / scale, bottom: top + this.picture.height / scale }
  }
  /** Brings a place of the canvas into the middle. */
  lookAt(x: number, y: number): void {
    const { scale } = this.view
    this.fitted = false
    this.moveTo(scale, x, y, this.picture.width / 2, this.picture.height / 2)
  }
  drawWhole(surface: HTMLCanvasElement): void {
    const context = surface.getContext('2d')!,
      tile = this.tiles.use({ level: this.coarsest, x: 0, y: 0, before: false })
    context.fillStyle = this.checks(context)
    context.fillRect(0, 0, surface.width, surface.height)
    if (!tile) return
    const side = 2 ** this.coarsest
    context.imageSmoothingQuality = 'high'
    context.drawImage(
      tile,
      0,
      0,
      this.canvas.width / side,
      this.canvas.height / side,
      0,
      0,
      surface.width,
      surface.height,
    )
  }
  /** @returns what ends it */
  whenDrawn(listener: () => void): () => void {
    this.drawn.add(listener)
    return () => this.drawn.delete(listener)
  }

  // ---- for the page
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
  getView = (): View => this.view
  /** Device px to canvas px; `x`, `y` in CSS px from the surface's corner. */
  toCanvas(x: number, y: number): [number, number] {
    const { left, top, scale } = this.view
    return [left + (x * this.ratio) / scale, top + (y * this.ratio) / scale]
  }
  toScreen(x: number, y: number): [number, number] {
    const { left, top, scale } = this.view
    return [((x - left) * scale) / this.ratio, ((y - top) * scale) / this.ratio]
  }
  /** CSS px for one canvas px. */
  get cssScale(): number {
    return this.view.scale / this.ratio
  }

  resize(cssWidth: number, cssHeight: number, ratio: number): void {
    this.ratio = ratio
    for (const surface of [this.picture, this.outline]) {
      surface.width = Math.max(1, Math.round(cssWidth * ratio))
      surface.height = Math.max(1, Math.round(cssHeight * ratio))
    }
    if (this.fitted) this.fit()
    else this.changed()
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

  layersChanged(epoch: number): void {
    this.epoch = epoch
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
    this.refreshOverlay()
  }
  setOverlay(style: OverlayStyle | null): void {
    this.overlayStyle = style
    this.showAnts = style?.mode === 'ants'
    if (!style || style.mode === 'plain' || style.mode === 'ants') {
      this.overlay?.bitmap.close()
      this.overlay = null
    }
    if (!this.showAnts) this.setAnts([], this.viewport())
    this.refreshOverlay()
    this.schedule()
  }

  /** Left of this canvas x the picture is shown as it came. */
  setDivider(x: number | null): void {
    this.divider = x
    this.requestTiles()
    this.schedule()
    this.drawAnts()
  }

  /** How much rulers take of the upper and the left side, CSS px: what fits makes room for them. */
  setRuler(px: number): void {
    if (px === this.ruler) return
    this.ruler = px
    if (this.fitted) this.fit()
  }
  fit(): void {
    const margin = FIT_MARGIN_PX * this.ratio,
      ruler = this.ruler * this.ratio,
      top = BAR_PX * this.ratio + ruler
    const { width, height } = this.picture
    const scale = Math.min(
      (width - 2 * margin - ruler) / this.canvas.width,
      (height - top - margin) / this.canvas.height,
      this.ratio,
    )
    this.fitted = true
    const { canvas } = this
    this.moveTo(
      Math.max(MIN_SCALE, scale),
      canvas.width / 2,
      canvas.height / 2,
      (width + ruler) / 2,
      (top + height - margin) / 2,
    )
  }
  /** 1: one canvas pixel on one device pixel. Keeps the canvas point under (x, y) CSS px where it is. */
  zoomTo(scale: number, x = this.picture.width / this.ratio / 2, y = this.picture.height / this.ratio / 2): void {
    const [canvasX, canvasY] = this.toCanvas(x, y)
    this.fitted = false
    this.moveTo(Math.min(MAX_SCALE, Math.max(MIN_SCALE, scale)), canvasX, canvasY, x * this.ratio, y * this.ratio)
  }
  zoomBy(factor: number, x?: number, y?: number): void {
    this.zoomTo(this.view.scale * factor, x, y)
  }
  panBy(dx: number, dy: number): void {
    this.fitted = false
    const { left, top, scale } = this.view
    this.view = { left: left - (dx * this.ratio) / scale, top: top - (dy * this.ratio) / scale, scale }
    this.changed()
  }
  close(): void {
    cancelAnimationFrame(this.frame)
    clearTimeout(this.drawSoon)
    clearInterval(this.antTimer)
    this.tiles.drop()
    this.listeners.clear()
    this.drawn.clear()
  }

  // ---- inside
  private moveTo(scale: number, canvasX: number, canvasY: number, x: number, y: number): void {
    this.view = { left: canvasX - x / scale, top: canvasY - y / scale, scale }
    this.changed()
  }
  private changed(): void {
    for (const listener of this.listeners) listener()
    this.requestTiles()
    this.refreshOverlay()
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
  private viewport(): Viewport {
    return { ...this.view, width: this.picture.width, height: this.picture.height }
  }
  private get level(): number {
    const coarsest = Math.max(0, Math.ceil(Math.log2(Math.max(this.canvas.width, this.canvas.height) / TILE)))
    return Math.min(coarsest, Math.max(0, Math.floor(-Math.log2(this.view.scale) + 0.02)))
  }
  /** Tiles of a level that lie in view, the middle first. */
  private inView(level: number): [x: number, y: number][] {
    const { left, top, scale } = this.view,
      side = TILE * 2 ** level
    const last = (length: number) => Math.ceil(length / side) - 1
    const fromX = Math.max(0, Math.floor(left / side)),
      toX = Math.min(last(this.canvas.width), Math.floor((left + this.picture.width / scale) / side))
    const fromY = Math.max(0, Math.floor(top / side)),
      toY = Math.min(last(this.canvas.height), Math.floor((top + this.picture.height / scale) / side))
    const out: [number, number][] = []
    for (let y = fromY; y <= toY; y++) for (let x = fromX; x <= toX; x++) out.push([x, y])
    const middleX = (fromX + toX) / 2,
      middleY = (fromY + toY) / 2
    return out.sort((a, b) => Math.hypot(a[0] - middleX, a[1] - middleY) - Math.hypot(b[0] - middleX, b[1] - middleY))
  }
  private get coarsest(): number {
    return Math.max(0, Math.ceil(Math.log2(Math.max(this.canvas.width, this.canvas.height) / TILE)))
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

  /** One request under way, at most one waiting: the newest view wins. */
  private refreshOverlay(): void {
    const engine = this.engine()
    if (!engine || !this.overlayStyle) return
    if (this.overlayBusy) {
      this.overlayWanted = true
      return
    }
    this.overlayBusy = true
    const view = this.viewport(),
      style = this.overlayStyle
    const done = () => {
      this.overlayBusy = false
      if (this.overlayWanted) {
        this.overlayWanted = false
        this.refreshOverlay()
      }
    }
    const work =
      style.mode === 'ants'
        ? engine.ants(view).then((bitmaps) => {
            if (this.showAnts) this.setAnts(bitmaps, view)
          })
        : engine.overlay(view, style).then((bitmap) => {
            if (this.overlayStyle?.mode !== style.mode) {
              bitmap?.close()
              return
            }
            this.overlay?.bitmap.close()
            this.overlay = bitmap && { bitmap, view }
            this.schedule()
          })
    work
      .then(
        () => mark('wily:overlay'),
        () => {},
      )
      .finally(done)
  }

  private setAnts(bitmaps: ImageBitmap[], view: Viewport): void {
    for (const bitmap of this.ants.bitmaps) bitmap.close()
    this.ants = { bitmaps, view }
    clearInterval(this.antTimer)
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches
    if (bitmaps.length > 1 && !still)
      this.antTimer = setInterval(() => {
        this.antPhase = (this.antPhase + 1) % bitmaps.length
        this.drawAnts()
      }, ANT_FRAME_MS)
    this.drawAnts()
  }

  private drawAnts(): void {
    const context = this.outline.getContext('2d')!
    context.clearRect(0, 0, this.outline.width, this.outline.height)
    const bitmap = this.ants.bitmaps[this.antPhase % Math.max(1, this.ants.bitmaps.length)]
    if (!bitmap) return
    context.save()
    if (this.divider !== null) {
      const x = (this.divider - this.view.left) * this.view.scale
      context.beginPath()
      context.rect(x, 0, Math.max(0, this.outline.width - x), this.outline.height)
      context.clip()
    }
    this.drawInView(context, bitmap, this.ants.view)
    context.restore()
  }

  /** Draws what was made for another view where it belongs now. */
  private drawInView(context: CanvasRenderingContext2D, bitmap: ImageBitmap, made: Viewport): void {
    const { left, top, scale } = this.view,
      factor = scale / made.scale
    context.imageSmoothingEnabled = factor !== 1
    context.drawImage(
      bitmap,
      (made.left - left) * scale,
      (made.top - top) * scale,
      bitmap.width * factor,
      bitmap.height * factor,
    )
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
    const behind = this.overlayStyle?.behind
    context.fillStyle = behind && behind !== 'checks' ? behind : this.checks(context)
    context.fillRect(x0, y0, width, height)
    const level = this.level
    const complete = this.drawTiles(context, level, false)
    if (this.overlay) this.drawInView(context, this.overlay.bitmap, this.overlay.view)
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
    if (this.showAnts) this.drawAnts()
    for (const listener of this.drawn) listener()
    if (complete && this.tiles.size > 0 && this.isComplete(level)) {
      mark('wily:picture', scale)
      if (!this.making) this.picture.dataset.final = 'yes'
      else delete this.picture.dataset.final
    }
  }

  private pattern: CanvasPattern | null = null
  private checks(context: CanvasRenderingContext2D): CanvasPattern | string {
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
