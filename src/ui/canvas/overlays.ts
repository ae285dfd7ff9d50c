/** What lies over the picture, as it was last made: the overlay, and on a surface of its own the marching outline, which moves without the picture being redrawn. */
import { type Engine } from '@/engine/page/engine'
import { ANT_PHASES, type OverlayStyle, type Viewport } from '@/engine/page/protocol'
import { type View } from './camera'
import { mark } from './marks'

const ANT_FRAME_MS = 180

export class Overlays {
  style: OverlayStyle | null = null
  private overlay: { bitmap: ImageBitmap; view: Viewport } | null = null
  private ants: { bitmaps: ImageBitmap[]; view: Viewport } = {
    bitmaps: [],
    view: { left: 0, top: 0, scale: 1, width: 1, height: 1 },
  }
  private busy = false
  private wanted = false
  private antTimer: ReturnType<typeof setInterval> | undefined
  private marchTimer: ReturnType<typeof setTimeout> | undefined
  private antPhase = 0
  /** Left of this canvas x there is no outline. */
  private divider: number | null = null

  constructor(
    private readonly outline: HTMLCanvasElement,
    private readonly engine: () => Engine | null,
    private readonly viewport: () => Viewport,
    private readonly arrived: () => void,
  ) {}

  get marching(): boolean {
    return this.style?.mode === 'ants'
  }
  setStyle(style: OverlayStyle | null): void {
    this.style = style
    if (!style || style.mode === 'plain' || style.mode === 'ants') {
      this.overlay?.bitmap.close()
      this.overlay = null
    }
    if (!this.marching) this.setAnts([], this.viewport())
    this.refresh()
  }
  setDivider(x: number | null): void {
    this.divider = x
    this.drawAnts()
  }

  /** One request under way, at most one waiting: the newest view wins. */
  refresh(): void {
    const engine = this.engine(),
      { style } = this
    if (!engine || !style) return
    if (this.busy) {
      this.wanted = true
      return
    }
    this.busy = true
    const view = this.viewport()
    const work =
      style.mode === 'ants'
        ? engine.ants(view, 1).then((bitmaps) => {
            if (!this.marching) return
            this.setAnts(bitmaps, view)
            this.marchLater(view)
          })
        : engine.overlay(view, style).then((bitmap) => {
            if (this.style?.mode !== style.mode) {
              bitmap?.close()
              return
            }
            this.overlay?.bitmap.close()
            this.overlay = bitmap && { bitmap, view }
            this.arrived()
          })
    work
      .then(
        () => mark('wily:overlay'),
        () => {},
      )
      .finally(() => {
        this.busy = false
        if (!this.wanted) return
        this.wanted = false
        this.refresh()
      })
  }

  drawOver(context: CanvasRenderingContext2D): void {
    if (this.overlay) drawInView(context, this.overlay.bitmap, this.overlay.view, this.viewport())
  }
  drawAnts(): void {
    const { outline, divider } = this,
      context = outline.getContext('2d')!,
      now = this.viewport()
    context.clearRect(0, 0, outline.width, outline.height)
    const bitmap = this.ants.bitmaps[this.antPhase % Math.max(1, this.ants.bitmaps.length)]
    if (!bitmap) return
    context.save()
    if (divider !== null) {
      const x = (divider - now.left) * now.scale
      context.beginPath()
      context.rect(x, 0, Math.max(0, outline.width - x), outline.height)
      context.clip()
    }
    drawInView(context, bitmap, this.ants.view, now)
    context.restore()
  }

  /** The outline stands at once; it marches when nothing newer has come for a while. */
  private marchLater(view: Viewport): void {
    clearTimeout(this.marchTimer)
    if (!this.ants.bitmaps.length || matchMedia('(prefers-reduced-motion: reduce)').matches) return
    const standing = this.ants
    this.marchTimer = setTimeout(() => {
      if (this.ants !== standing) return // it stands no more, as in another view
      this.engine()
        ?.ants(view, ANT_PHASES)
        .then((bitmaps) => {
          if (this.ants === standing) this.setAnts(bitmaps, view)
          else for (const bitmap of bitmaps) bitmap.close()
        })
        .catch(() => {})
    }, ANT_FRAME_MS)
  }

  private setAnts(bitmaps: ImageBitmap[], view: Viewport): void {
    for (const bitmap of this.ants.bitmaps) bitmap.close()
    this.ants = { bitmaps, view }
    clearInterval(this.antTimer)
    if (bitmaps.length > 1)
      this.antTimer = setInterval(() => {
        this.antPhase = (this.antPhase + 1) % bitmaps.length
        this.drawAnts()
      }, ANT_FRAME_MS)
    this.drawAnts()
  }
  close(): void {
    clearInterval(this.antTimer)
    clearTimeout(this.marchTimer)
  }
}

/** Draws what was made for another view where it belongs now. */
function drawInView(context: CanvasRenderingContext2D, bitmap: ImageBitmap, made: View, now: View): void {
  const factor = now.scale / made.scale
  context.imageSmoothingEnabled = factor !== 1
  context.drawImage(
    bitmap,
    (made.left - now.left) * now.scale,
    (made.top - now.top) * now.scale,
    bitmap.width * factor,
    bitmap.height * factor,
  )
}
