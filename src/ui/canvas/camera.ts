/** From where the canvas is looked at: which part of it lies on the surface, and how large. */
import { type Size } from '@/core/raster/picture'
import { type Viewport } from '@/engine/page/protocol'
import { BAR_PX } from './ruler'

export interface View {
  /** Canvas px at the surface's upper left corner. */ readonly left: number
  readonly top: number
  /** Device px for one canvas px. */ readonly scale: number
}
const MIN_SCALE = 0.01,
  MAX_SCALE = 64
/** Around a picture that fits, CSS px; above it lies what says how it is shown. */
const FIT_MARGIN_PX = 28

export abstract class Camera {
  view: View = { left: 0, top: 0, scale: 1 }
  protected canvas: Size = { width: 1, height: 1 }
  /** Device px. */
  protected surface: Size = { width: 1, height: 1 }
  protected ratio = 1
  private ruler = 0
  private fitted = true
  private readonly listeners = new Set<() => void>()

  /** The view is another one. */
  protected abstract moved(): void

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
  getView = (): View => this.view
  get whole(): Size {
    return this.canvas
  }
  /** The part of the canvas that is in view, canvas px; beyond the canvas where that is smaller. */
  shown({ left, top, scale }: View): { left: number; top: number; right: number; bottom: number } {
    return { left, top, right: left + this.surface.width / scale, bottom: top + this.surface.height / scale }
  }
  protected viewport(): Viewport {
    return { ...this.view, ...this.surface }
  }
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

  /** Brings a place of the canvas into the middle. */
  lookAt(x: number, y: number): void {
    this.fitted = false
    this.moveTo(this.view.scale, x, y, this.surface.width / 2, this.surface.height / 2)
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
    const { canvas } = this,
      { width, height } = this.surface
    const scale = Math.min(
      (width - 2 * margin - ruler) / canvas.width,
      (height - top - margin) / canvas.height,
      this.ratio,
    )
    this.fitted = true
    this.moveTo(
      Math.max(MIN_SCALE, scale),
      canvas.width / 2,
      canvas.height / 2,
      (width + ruler) / 2,
      (top + height - margin) / 2,
    )
  }
  /** 1: one canvas pixel on one device pixel. Keeps the canvas point under (x, y) CSS px where it is. */
  zoomTo(scale: number, x = this.surface.width / this.ratio / 2, y = this.surface.height / this.ratio / 2): void {
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
  /** The surface is another one; what fitted still does. */
  protected setSurface(surface: Size, ratio: number): void {
    this.ratio = ratio
    this.surface = surface
    if (this.fitted) this.fit()
    else this.changed()
  }
  close(): void {
    this.listeners.clear()
  }

  private moveTo(scale: number, canvasX: number, canvasY: number, x: number, y: number): void {
    this.view = { left: canvasX - x / scale, top: canvasY - y / scale, scale }
    this.changed()
  }
  private changed(): void {
    for (const listener of this.listeners) listener()
    this.moved()
  }
}
