/**
 * The page's side of the engine: starts the two workers, gives them what changed, and lets the newest request win. It never
 * touches a pixel itself.
 */
import * as Comlink from 'comlink'
import { type Affine, compose } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type Layer } from '@/document/types'
import { type OverlayStyle, type PictureWorker, type PlacedSpec, type SelectRequest, type SelectResult, type SharedMatte, type SharedPicture, type TileWorker, type Viewport } from './protocol'

export interface EngineEvents {
  progress(what: string, fraction: number | null): void
  curve(step: string, key: string, curve: ToleranceCurve): void
  /** The composed layers changed: tiles of older epochs are stale. */
  layersChanged(epoch: number): void
  opened(asset: string, picture: SharedPicture): void
  failed(sentence: string): void
}

/** The assets of layers and of what their masks look at. */
export function assetsOf(layers: readonly Layer[]): string[] {
  return [...new Set(layers.flatMap((layer) => [layer.asset, ...(layer.mask ? assetsOf(layer.mask.scene) : [])]))]
}

export class Engine {
  private readonly pictureThread = new Worker(new URL('./pictureWorker.ts', import.meta.url), { type: 'module', name: 'pictures' })
  private readonly tileThread = new Worker(new URL('./tileWorker.ts', import.meta.url), { type: 'module', name: 'tiles' })
  private readonly picture = Comlink.wrap<PictureWorker>(this.pictureThread)
  private readonly tiles = Comlink.wrap<TileWorker>(this.tileThread)
  private readonly latestSelect = new Int32Array(new SharedArrayBuffer(4))
  private readonly epochs = new Int32Array(new SharedArrayBuffer(4))
  private readonly opened = new Map<string, Promise<SharedPicture>>()
  private readonly masks = new Map<string, Promise<SharedMatte>>()
  private layersWanted = 0

  constructor(private readonly events: EngineEvents) {
    void this.picture.start(this.latestSelect.buffer, Comlink.proxy({ progress: events.progress, curve: events.curve }))
    void this.tiles.start(this.epochs.buffer)
    const crashed = () => events.failed('The picture engine stopped. Reload the page; nothing is lost.')
    this.pictureThread.onerror = crashed
    this.tileThread.onerror = crashed
  }

  close(): void { this.pictureThread.terminate(); this.tileThread.terminate() }

  private open(asset: string): Promise<SharedPicture> {
    let picture = this.opened.get(asset)
    if (!picture) {
      picture = this.picture.open(asset).then(async (done) => { await this.tiles.setPicture(asset, done); this.events.opened(asset, done); return done })
      this.opened.set(asset, picture)
      picture.catch((error: unknown) => { this.opened.delete(asset); this.events.failed(`A picture could not be loaded: ${error instanceof Error ? error.message : String(error)}`) })
    }
    return picture
  }

  /** Shows these layers. Pictures are loaded and masks made as needed; what is there already shows at once. */
  async setLayers(layers: readonly Layer[], canvas: Size): Promise<void> {
    const wanted = ++this.layersWanted
    const shown = layers.filter((layer) => layer.visible)
    await Promise.all(shown.map((layer) => this.open(layer.asset).catch(() => undefined)))
    const placed: PlacedSpec[] = []
    for (const layer of shown) {
      if (wanted !== this.layersWanted) return
      const mask = layer.mask?.enabled ? layer.mask : null
      placed.push({ asset: layer.asset, toCanvas: layer.placement, opacity: layer.opacity, mask: mask ? { levels: await this.mask(mask), toCanvas: compose(layer.placement, mask.toLayer) } : undefined })
    }
    if (wanted !== this.layersWanted) return
    await this.tiles.setLayers(placed, canvas)
    this.events.layersChanged(Atomics.add(this.epochs, 0, 1) + 1)
    this.forget(layers)
  }

  private mask(mask: NonNullable<Layer['mask']>): Promise<SharedMatte> {
    const key = JSON.stringify([mask.recipe, mask.frame, mask.scene, mask.sceneLayer])
    let levels = this.masks.get(key)
    if (levels) { this.masks.delete(key); this.masks.set(key, levels) } else {
      levels = this.picture.mask(mask)
      this.masks.set(key, levels)
      levels.catch(() => this.masks.delete(key))
    }
    return levels
  }

  /** Masks of earlier values and pictures no longer used go; a few masks are kept for undo. */
  private forget(layers: readonly Layer[]): void {
    const keep = layers.filter((layer) => layer.mask).length + 3
    for (const key of [...this.masks.keys()].slice(0, Math.max(0, this.masks.size - keep))) this.masks.delete(key)
    const assets = assetsOf(layers)
    for (const asset of [...this.opened.keys()]) if (!assets.includes(asset)) this.opened.delete(asset)
    void this.picture.keep(assets)
    void this.tiles.keep(assets)
  }

  /** The matte of the steps, or null when a newer request overtook this one. */
  select(request: SelectRequest): Promise<SelectResult | null> {
    return this.picture.select(request, Atomics.add(this.latestSelect, 0, 1) + 1)
  }
  warm(request: SelectRequest): void { void this.picture.warm(request) }
  /** Gives up the selection being made. */
  cancelSelect(): void { Atomics.add(this.latestSelect, 0, 1) }
  /** Gives up everything the finders are doing. */
  cancelAll(): void { this.cancelSelect(); void this.picture.stopPreparing() }

  setMatte(matte: SharedMatte | null, toCanvas: Affine): Promise<void> { return this.tiles.setMatte(matte, toCanvas) }
  thumbnails(request: SelectRequest, longest: number): Promise<Record<string, ImageBitmap>> { return this.picture.thumbnails(request, longest) }
  tile(level: number, x: number, y: number, epoch: number): Promise<ImageBitmap | null> { return this.tiles.tile(level, x, y, epoch) }
  overlay(view: Viewport, style: OverlayStyle): Promise<ImageBitmap | null> { return this.tiles.overlay(view, style) }
  ants(view: Viewport): Promise<ImageBitmap[]> { return this.tiles.ants(view) }
  pixel(x: number, y: number) { return this.tiles.pixel(x, y) }
  cover(longest: number): Promise<Blob> { return this.tiles.cover(longest) }
  async layerThumbnail(layer: Layer, longest: number): Promise<ImageBitmap> { await this.open(layer.asset); return this.tiles.layerThumbnail(layer.asset, longest) }
  async maskThumbnail(mask: NonNullable<Layer['mask']>, longest: number): Promise<ImageBitmap> { return this.tiles.matteThumbnail(await this.mask(mask), longest) }
}
