/**
 * The page's side of the engine: starts the two workers, gives them what changed, and lets the newest request win. It never
 * touches a pixel itself.
 */
import * as Comlink from 'comlink'
import { type Node } from '@/core/compose/nodes'
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Box } from '@/core/raster/content'
import { type Sample } from '@/core/select/finder'
import { type LiveWireFields } from '@/core/select/liveWire'
import { type Point } from '@/core/vector/fill'
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type FringeOptions } from '@/core/edge/foregroundColours'
import { type RibbonView } from '@/core/edge/ribbon'
import { isShown, layersBelow, picturesOf, withDescendants } from '@/document/tree'
import {
  type KeptScene,
  type Layer,
  type LayerMask,
  type PaintLayer,
  type PictureLayer,
  type SceneRecord,
} from '@/document/types'
import { type Made, nodesOf } from '../nodes'
import {
  type OverlayStyle,
  type PictureWorker,
  type SelectRequest,
  type SelectResult,
  type SharedMatte,
  SELECT,
  type SharedPicture,
  type TileWorker,
  TRACE,
  HOVER,
  RIBBON,
  COUNTERS,
  type UnrolledEdge,
  type Viewport,
  type WireSoFar,
} from './protocol'

export interface EngineEvents {
  progress(what: string, fraction: number | null): void
  curve(step: string, key: string, curve: ToleranceCurve): void
  histogram(step: string, key: string, shares: readonly number[]): void
  /** The composed layers changed: tiles of older epochs are stale. */
  layersChanged(epoch: number): void
  opened(asset: string, picture: SharedPicture): void
  failed(sentence: string): void
}

/** How long after it was overtaken the taking out of fringe colours is tried again, ms. */
const TRY_AGAIN = 400

/** A painted or cleaned layer's picture by the tiles' name for it, and where it begins in the layer. */
interface PlacedPaint {
  readonly name: string
  readonly x: number
  readonly y: number
}
type MadeNow = Made<string> & { readonly paints: readonly string[] }

export class Engine {
  private readonly pictureThread = new Worker(new URL('./pictureWorker.ts', import.meta.url), {
    type: 'module',
    name: 'pictures',
  })
  private readonly tileThread = new Worker(new URL('./tileWorker.ts', import.meta.url), {
    type: 'module',
    name: 'tiles',
  })
  private readonly picture = Comlink.wrap<PictureWorker>(this.pictureThread)
  private readonly tiles = Comlink.wrap<TileWorker>(this.tileThread)
  /** The newest request of each kind: selections, traces. */
  private readonly latest = new Int32Array(new SharedArrayBuffer(4 * COUNTERS))
  private readonly epochs = new Int32Array(new SharedArrayBuffer(4))
  private readonly opened = new Map<string, Promise<SharedPicture>>()
  private readonly masks = new Map<string, Promise<SharedMatte>>()
  private readonly paints = new Map<string, Promise<PlacedPaint | null>>()
  private readonly fringes = new Map<string, Promise<PlacedPaint | null>>()
  private layersWanted = 0
  private made = 0

  constructor(private readonly events: EngineEvents) {
    void this.picture.start(
      this.latest.buffer,
      Comlink.proxy({ progress: events.progress, curve: events.curve, histogram: events.histogram }),
    )
    void this.tiles.start(this.epochs.buffer)
    const crashed = () => events.failed('The picture engine stopped. Reload the page; nothing is lost.')
    this.pictureThread.onerror = crashed
    this.tileThread.onerror = crashed
  }

  close(): void {
    this.pictureThread.terminate()
    this.tileThread.terminate()
  }

  private open(asset: string): Promise<SharedPicture> {
    let picture = this.opened.get(asset)
    if (!picture) {
      picture = this.picture.open(asset).then(async (done) => {
        await this.tiles.setPicture(asset, done)
        this.events.opened(asset, done)
        return done
      })
      this.opened.set(asset, picture)
      picture.catch((error: unknown) => {
        this.opened.delete(asset)
        this.events.failed(`A picture could not be loaded: ${error instanceof Error ? error.message : String(error)}`)
      })
    }
    return picture
  }

  /** Shows these layers. Pictures are loaded, masks and paint made as needed; what is there already shows at once. @param cut a matte that masks one of them for now */
  async setLayers(
    { layers, scenes, linear }: SceneRecord,
    view: { readonly size: Size; readonly fromCanvas: Affine },
    cut?: { readonly layer: string; readonly levels: SharedMatte; readonly toCanvas: Affine },
  ): Promise<void> {
    const wanted = ++this.layersWanted
    const again = () => {
      if (wanted === this.layersWanted) void this.setLayers({ layers, scenes, linear } as SceneRecord, view, cut)
    }
    // Where nothing is missing it goes on at once: a slider's values should not wait for the page to be drawn.
    const ready = this.make(layers, scenes, cut, again),
      made = { ...(ready instanceof Promise ? await ready : ready), view: view.fromCanvas }
    if (wanted !== this.layersWanted) return
    const asCame = layers.filter((layer) => layer.kind !== 'adjust').map((layer) => ({ ...layer, mask: null }))
    const told = this.tiles.setLayers(nodesOf(layers, made), nodesOf(asCame, made), view.size, linear)
    this.events.layersChanged(Atomics.add(this.epochs, 0, 1) + 1) // tiles asked for now come after it in the thread's turn
    await told
    this.forget({ layers, scenes }, made.paints)
  }

  private readonly settled = new WeakMap<Promise<unknown>, { readonly value: unknown }>()
  /** What a promise of an earlier turn came to; undefined while it is open. */
  private known<T>(promise: Promise<T>): { readonly value: T } | undefined {
    if (!this.settled.has(promise))
      promise.then(
        (value) => this.settled.set(promise, { value }),
        () => {},
      )
    return this.settled.get(promise) as { value: T } | undefined
  }

  /** Opens the pictures and makes the masks and paint of the layers that are shown; a promise only where something is not there yet. Colours without fringe come later: `again` is called when there are more of them. */
  private make(
    layers: readonly Layer[],
    scenes: readonly KeptScene[],
    cut?: { readonly layer: string; readonly levels: SharedMatte; readonly toCanvas: Affine },
    again?: () => void,
  ): MadeNow | Promise<MadeNow> {
    const masks = new Map<LayerMask, { key: string; levels: SharedMatte }>(),
      paints = new Map<PaintLayer, PlacedPaint | null>(),
      fringes = new Map<PictureLayer, PlacedPaint | null>(),
      open: Promise<void>[] = []
    const take = <T>(promise: Promise<T>, put: (value: T) => void, otherwise?: () => void) => {
      const done = this.known(promise)
      if (done) put(done.value)
      else open.push(promise.then(put, otherwise))
    }
    for (const layer of layers) {
      if (!isShown(layers, layer.id)) continue
      const { mask } = layer
      if (mask?.enabled && layer.id !== cut?.layer) {
        const { key, levels } = this.mask(mask, scenes)
        take(levels, (value) => masks.set(mask, { key, levels: value }))
      }
      if (layer.kind === 'picture')
        take(
          this.open(layer.asset),
          () => {},
          () => {},
        ) // it has been said that it is not there
      if (
        layer.kind === 'picture' &&
        mask?.enabled &&
        layer.id !== cut?.layer &&
        !layer.joins &&
        (mask.fringe || mask.rim)
      ) {
        const coming = this.fringed(layer, scenes),
          done = this.known(coming)
        if (done) fringes.set(layer, done.value)
        else if (again) coming.then(again, () => {})
      }
      if (layer.kind === 'paint')
        take(
          this.paint(layer, scenes),
          (value) => paints.set(layer, value),
          () => {},
        )
    }
    const made = (): MadeNow => ({
      mask: (mask) => masks.get(mask) ?? null,
      picture: (asset) => asset,
      paint: (layer) => {
        const paint = paints.get(layer)
        return paint ? { key: paint.name, picture: paint.name, x: paint.x, y: paint.y } : null
      },
      fringed: (layer) => {
        const clean = fringes.get(layer)
        return clean ? { key: clean.name, picture: clean.name, x: clean.x, y: clean.y } : null
      },
      instead: cut && {
        layer: cut.layer,
        toCanvas: cut.toCanvas,
        mask: { key: `cut ${++this.made}`, levels: cut.levels },
      },
      paints: [...paints.values(), ...fringes.values()].flatMap((paint) => (paint ? [paint.name] : [])),
    })
    return open.length ? Promise.all(open).then(made) : made()
  }

  private maskKey(mask: LayerMask): string {
    return JSON.stringify([mask.recipe, mask.frame, mask.scene, mask.sceneLayer, mask.saved, mask.feather ?? 0])
  }
  private mask(mask: LayerMask, scenes: readonly KeptScene[]): { key: string; levels: Promise<SharedMatte> } {
    const key = this.maskKey(mask)
    let levels = this.masks.get(key)
    if (levels) {
      this.masks.delete(key)
      this.masks.set(key, levels)
    } else {
      levels = this.picture.mask(mask, scenes)
      this.masks.set(key, levels)
      levels.catch(() => this.masks.delete(key))
    }
    return { key, levels }
  }

  /** A painted layer's picture, given to the tiles under a name of its own. */
  private paint(layer: PaintLayer, scenes: readonly KeptScene[]): Promise<PlacedPaint | null> {
    const key = JSON.stringify([layer.items, layer.width, layer.height])
    let painted = this.paints.get(key)
    if (!painted) {
      painted = this.picture.paint(layer, scenes).then(async (done) => {
        if (!done) return null
        const name = `paint ${++this.made}`
        await this.tiles.setPicture(name, done.picture)
        return { name, x: done.x, y: done.y }
      })
      this.paints.set(key, painted)
      painted.catch(() => this.paints.delete(key))
    }
    return painted
  }

  /** A masked picture in the subject's own colours, given to the tiles under a name of its own; tried again when a newer selection overtook it. */
  private fringed(layer: PictureLayer, scenes: readonly KeptScene[]): Promise<PlacedPaint | null> {
    const mask = layer.mask!,
      key = JSON.stringify([
        layer.asset,
        this.maskKey(mask),
        mask.toLayer,
        mask.invert,
        mask.outsideShown,
        mask.fringe,
        mask.rim,
      ])
    let cleaned = this.fringes.get(key)
    if (!cleaned) {
      const attempt = async (): Promise<PlacedPaint | null> => {
        let done = await this.picture.fringed(layer, scenes, Atomics.load(this.latest, SELECT))
        while (done === false && this.fringes.get(key) === cleaned) {
          await new Promise((later) => setTimeout(later, TRY_AGAIN))
          done = await this.picture.fringed(layer, scenes, Atomics.load(this.latest, SELECT))
        }
        if (!done) return null
        const name = `fringe ${++this.made}`
        await this.tiles.setPicture(name, done.picture)
        return { name, x: done.x, y: done.y }
      }
      cleaned = attempt()
      this.fringes.set(key, cleaned)
      cleaned.catch(() => this.fringes.delete(key))
    }
    return cleaned
  }

  /** Masks and paint of earlier values and pictures no longer used go; a few masks are kept for undo. */
  private forget(shown: Pick<SceneRecord, 'layers' | 'scenes'>, paints: readonly string[]): void {
    const keep = shown.layers.filter((layer) => layer.mask).length + 3
    for (const key of [...this.masks.keys()].slice(0, Math.max(0, this.masks.size - keep))) this.masks.delete(key)
    for (const kept of [this.paints, this.fringes])
      for (const [key, paint] of kept)
        void paint.then(
          (made) => {
            if (made && !paints.includes(made.name)) kept.delete(key)
          },
          () => {},
        )
    const assets = picturesOf(shown).map((picture) => picture.asset)
    for (const asset of [...this.opened.keys()]) if (!assets.includes(asset)) this.opened.delete(asset)
    void this.picture.keep(assets)
    void this.tiles.keep([...assets, ...paints])
  }

  /** The matte of the steps, or null when a newer request overtook this one. */
  select(request: SelectRequest): Promise<SelectResult | null> {
    return this.picture.select(request, Atomics.add(this.latest, SELECT, 1) + 1)
  }
  contentBox(request: SelectRequest, box: Box, sample: Sample): Promise<Box | null> {
    return this.picture.contentBox(request, box, sample)
  }
  /** Null when a newer one overtook it. */
  trace(request: SelectRequest, tolerance: number, leastArea: number): Promise<string | null> {
    return this.picture.trace(request, tolerance, leastArea, Atomics.add(this.latest, TRACE, 1) + 1)
  }
  /** What the pointer is shown while it moves; null when a newer one overtook it. */
  wire(
    request: SelectRequest,
    values: LiveWireFields & { readonly sample: Sample },
    to: Point,
  ): Promise<WireSoFar | null> {
    return this.picture.wire(request, values, to, Atomics.add(this.latest, HOVER, 1) + 1)
  }
  region(request: SelectRequest, at: Point, detail: number, sample: Sample): Promise<string | null> {
    return this.picture.region(request, at, detail, sample, Atomics.add(this.latest, HOVER, 1) + 1)
  }
  subjects(request: SelectRequest, sample: Sample, longest: number): Promise<ImageBitmap[]> {
    return this.picture.subjects(request, sample, longest)
  }
  /** Null when a newer one overtook it. */
  ribbon(request: SelectRequest, fringe: FringeOptions | null): Promise<UnrolledEdge | null> {
    return this.picture.ribbon(request, fringe, Atomics.add(this.latest, RIBBON, 1) + 1)
  }
  ribbonPicture(view: RibbonView): Promise<ImageBitmap> {
    return this.picture.ribbonPicture(view)
  }
  mattePng(request: SelectRequest): Promise<Blob> {
    return this.picture.mattePng(request)
  }
  warm(request: SelectRequest): void {
    void this.picture.warm(request)
  }
  /** Gives up the selection being made. */
  cancelSelect(): void {
    Atomics.add(this.latest, SELECT, 1)
  }
  /** Gives up everything the finders are doing. */
  cancelAll(): void {
    this.cancelSelect()
    Atomics.add(this.latest, TRACE, 1)
    Atomics.add(this.latest, HOVER, 1)
    Atomics.add(this.latest, RIBBON, 1)
    void this.picture.stopPreparing()
  }

  setMatte(matte: SharedMatte | null, toCanvas: Affine): Promise<void> {
    return this.tiles.setMatte(matte, toCanvas)
  }
  /** Keeps the matte of the steps to compare with; null: none. */
  async keepMatte(request: SelectRequest | null, toCanvas: Affine): Promise<void> {
    await this.tiles.setKept(request && (await this.picture.keptMatte(request)), toCanvas)
  }
  thumbnails(request: SelectRequest, longest: number): Promise<Record<string, ImageBitmap>> {
    return this.picture.thumbnails(request, longest)
  }
  tile(level: number, x: number, y: number, epoch: number, before: boolean): Promise<ImageBitmap | null> {
    return this.tiles.tile(level, x, y, epoch, before)
  }
  overlay(view: Viewport, style: OverlayStyle): Promise<ImageBitmap | null> {
    return this.tiles.overlay(view, style)
  }
  ants(view: Viewport): Promise<ImageBitmap[]> {
    return this.tiles.ants(view)
  }
  pixel(x: number, y: number) {
    return this.tiles.pixel(x, y)
  }
  cover(longest: number): Promise<Blob> {
    return this.tiles.cover(longest)
  }
  /** A layer by itself, all that lies in it; of an adjustment there is nothing to see. */
  async layerThumbnail(
    layer: Layer,
    { layers, scenes, canvas, linear }: SceneRecord,
    longest: number,
  ): Promise<ImageBitmap> {
    const family = withDescendants(layers, layer.id).map((each) => {
      const { parent, ...rest } = each
      return {
        ...rest,
        ...(each.id === layer.id ? { visible: true, clipped: undefined } : { parent }),
        mask: null,
      } as Layer
    })
    const nodes: Node<string>[] = nodesOf(family, await this.make(family, scenes))
    return this.tiles.layerThumbnail(nodes, canvas, linear, longest)
  }
  async maskThumbnail(mask: LayerMask, scenes: readonly KeptScene[], longest: number): Promise<ImageBitmap> {
    return this.tiles.matteThumbnail(await this.mask(mask, scenes).levels, longest)
  }
  /** Of what an adjustment works on. */
  async histogram(layer: string, { layers, scenes, canvas, linear }: SceneRecord): Promise<readonly Uint32Array[]> {
    const below = layersBelow(layers, layer)
    return this.tiles.histogram(nodesOf(below, await this.make(below, scenes)), canvas, linear)
  }
}
