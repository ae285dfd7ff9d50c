/**
 * The page's side of the engine: starts the workers, gives them what changed, and lets the newest request win. It never
 * touches a pixel itself.
 */
import * as Comlink from 'comlink'
import { type Affine } from '@/core/raster/affine'
import { type Box } from '@/core/raster/content'
import { type Sample } from '@/core/steps/step'
import { type SimilarColourFields } from '@/core/steps/similarColour'
import { type LiveWireFields } from '@/core/steps/liveWire'
import { type Point } from '@/core/vector/fill'
import { type FringeOptions } from '@/core/edge/foregroundColours'
import { type RibbonView } from '@/core/edge/ribbon'
import { type MatchedLayer } from '@/core/match/surroundings'
import { type SkyPicture } from '@/core/match/skyPicture'
import { RefSender } from './refs'
import { poolWidth, remoteOf, takeThread } from './threads'
import { TilePool } from './tiles/pool'
import { type EngineEvents } from './events'
import { ShownLayers } from './shownLayers'
import {
  type KeepableResult,
  type PhotoMeasured,
  type OverlayStyle,
  type PictureWorker,
  type SelectRequest,
  type SentRequest,
  type SelectResult,
  type SharedMatte,
  SELECT,
  TRACE,
  HOVER,
  MATCH,
  ACROSS,
  FITTING,
  RIBBON,
  WARM,
  COUNTERS,
  type UnrolledEdge,
  type Viewport,
  type WireSoFar,
} from './protocol'

export class Engine {
  private readonly pictureThread: Worker
  private readonly picture: Comlink.Remote<PictureWorker>
  /** The newest request of each kind: selections, traces. */
  private readonly latest = new Int32Array(new SharedArrayBuffer(4 * COUNTERS))
  private readonly epochs = new Int32Array(new SharedArrayBuffer(4))
  private readonly tiles: TilePool
  private readonly layers: ShownLayers
  /** @param project whose costly results are kept */
  constructor(events: EngineEvents, project: string) {
    const crashed = () => events.failed('The picture engine stopped. Reload the page; nothing is lost.')
    this.pictureThread = takeThread('pictures', crashed)
    this.picture = remoteOf<PictureWorker>(this.pictureThread)
    this.tiles = new TilePool(poolWidth(navigator.hardwareConcurrency), this.epochs.buffer, crashed)
    void this.picture.start(
      this.latest.buffer,
      project,
      Comlink.proxy({
        progress: events.progress,
        curve: events.curve,
        histogram: events.histogram,
        costly: (result: KeepableResult) => void this.tiles.anyone((worker) => worker.keepResult(result)),
        stored: (address: string) => this.tiles.anyone((worker) => worker.readResult(address)),
      }),
    )
    this.layers = new ShownLayers(this.picture, this.tiles, events, this.latest, this.epochs)
    this.tiles.help((port) => void this.picture.helpedBy(Comlink.transfer(port, [port])))
  }

  close(): void {
    this.layers.close()
    this.pictureThread.terminate()
    this.tiles.close()
  }

  private readonly steps = new RefSender()
  private readonly scenes = new RefSender()
  private sent(request: SelectRequest): SentRequest {
    this.coolDown()
    return { ...request, steps: this.steps.send(request.steps), scenes: this.scenes.send(request.scenes) }
  }

  /** @see ShownLayers.setLayers */
  setLayers(...asked: Parameters<ShownLayers['setLayers']>): Promise<void> {
    this.coolDown()
    return this.layers.setLayers(...asked)
  }
  /** @see ShownLayers.layerThumbnail */
  layerThumbnail(...asked: Parameters<ShownLayers['layerThumbnail']>): Promise<ImageBitmap> {
    return this.layers.layerThumbnail(...asked)
  }
  maskThumbnail(...asked: Parameters<ShownLayers['maskThumbnail']>): Promise<ImageBitmap> {
    return this.layers.maskThumbnail(...asked)
  }
  /** @see ShownLayers.histogram */
  histogram(...asked: Parameters<ShownLayers['histogram']>): Promise<readonly Uint32Array[]> {
    return this.layers.histogram(...asked)
  }

  /** The matte of the steps, or null when a newer request overtook this one. */
  select(request: SelectRequest): Promise<SelectResult | null> {
    return this.picture.select(this.sent(request), Atomics.add(this.latest, SELECT, 1) + 1)
  }
  /** The next answer about these steps is found by the algorithms of today. */
  renew(request: SelectRequest): Promise<void> {
    return this.picture.renew(this.sent(request))
  }
  selectedBox(request: SelectRequest): Promise<Box | null> {
    return this.picture.selectedBox(this.sent(request))
  }
  contentBox(request: SelectRequest, box: Box, sample: Sample): Promise<Box | null> {
    return this.picture.contentBox(this.sent(request), box, sample)
  }
  /** Null when a newer one overtook it. */
  trace(request: SelectRequest, tolerance: number, leastArea: number): Promise<string | null> {
    return this.picture.trace(this.sent(request), tolerance, leastArea, Atomics.add(this.latest, TRACE, 1) + 1)
  }
  /** What the pointer is shown while it moves; null when a newer one overtook it. */
  wire(
    request: SelectRequest,
    values: LiveWireFields & { readonly sample: Sample },
    to: Point | null,
    moving: boolean,
  ): Promise<WireSoFar | null> {
    return this.picture.wire(this.sent(request), values, to, moving, Atomics.add(this.latest, HOVER, 1) + 1)
  }
  region(request: SelectRequest, at: Point, detail: number, sample: Sample): Promise<string | null> {
    return this.picture.region(this.sent(request), at, detail, sample, Atomics.add(this.latest, HOVER, 1) + 1)
  }
  fittingTolerance(request: SelectRequest, values: SimilarColourFields & { readonly sample: Sample }): Promise<number> {
    return this.picture.fittingTolerance(this.sent(request), values)
  }
  subjects(request: SelectRequest, sample: Sample, longest: number): Promise<ImageBitmap[]> {
    return this.picture.subjects(this.sent(request), sample, longest)
  }
  /** Null when a newer one overtook it. */
  ribbon(request: SelectRequest, fringe: FringeOptions | null): Promise<UnrolledEdge | null> {
    return this.picture.ribbon(this.sent(request), fringe, Atomics.add(this.latest, RIBBON, 1) + 1)
  }
  /** Null where there is no boundary, or when a newer one overtook it. */
  acrossEdge(request: SelectRequest, reach: number): Promise<Float32Array | null> {
    return this.picture.acrossEdge(this.sent(request), reach, Atomics.add(this.latest, ACROSS, 1) + 1)
  }
  /** Null where the boundary tells nothing, or when a newer one overtook it. */
  fittingReach(request: SelectRequest): Promise<number | null> {
    return this.picture.fittingReach(this.sent(request), Atomics.add(this.latest, FITTING, 1) + 1)
  }
  /** Null when a newer one overtook it. */
  measure(request: SelectRequest): Promise<PhotoMeasured | null> {
    return this.picture.measure(this.sent(request), Atomics.add(this.latest, MATCH, 1) + 1)
  }
  private expected = 0
  /** These pictures will probably be shown next: opened once what is shown is drawn. */
  async expect(assets: readonly string[]): Promise<void> {
    const mine = ++this.expected
    await this.tiles.idle()
    if (mine === this.expected) this.layers.expect(assets)
  }
  /** Null when a newer one overtook it. */
  matchLayer(request: SelectRequest, layer: string): Promise<MatchedLayer | string | null> {
    return this.picture.matchLayer(this.sent(request), layer, Atomics.add(this.latest, MATCH, 1) + 1)
  }
  /** What the picture of a sky says, or why it shows none. */
  readSky(asset: string): Promise<SkyPicture | string> {
    return this.picture.readSky(asset)
  }
  ribbonPicture(view: RibbonView): Promise<ImageBitmap> {
    return this.picture.ribbonPicture(view)
  }
  mattePng(request: SelectRequest): Promise<Blob> {
    return this.picture.mattePng(this.sent(request))
  }
  /** Makes ready for picks to come. False when something else was asked for, or the layers changed, before it was done. */
  warm(request: SelectRequest): Promise<boolean> {
    const sent = this.sent(request)
    return this.picture.warm(sent, Atomics.load(this.latest, WARM))
  }
  /** What is made ready gives way. */
  private coolDown(): void {
    Atomics.add(this.latest, WARM, 1)
  }
  /** Gives up the selection being made. */
  cancelSelect(): void {
    Atomics.add(this.latest, SELECT, 1)
  }
  /** Gives up everything the finders are doing. */
  cancelAll(): void {
    for (let kind = 0; kind < COUNTERS; kind++) Atomics.add(this.latest, kind, 1)
    void this.picture.stopPreparing()
  }

  setMatte(matte: SharedMatte | null, toCanvas: Affine): Promise<void> {
    return this.tiles.overlays((worker) => worker.setMatte(matte, toCanvas))
  }
  /** Keeps the matte of the steps to compare with; null: none. */
  async keepMatte(request: SelectRequest | null, toCanvas: Affine): Promise<void> {
    const matte = request && (await this.picture.keptMatte(this.sent(request)))
    await this.tiles.overlays((worker) => worker.setKept(matte, toCanvas))
  }
  thumbnails(request: SelectRequest, longest: number): Promise<Record<string, ImageBitmap>> {
    return this.picture.thumbnails(this.sent(request), longest)
  }
  tile(level: number, x: number, y: number, epoch: number, before: boolean): Promise<ImageBitmap | null> {
    return this.tiles.tile(x, y, (worker) => worker.tile(level, x, y, epoch, before))
  }
  overlay(view: Viewport, style: OverlayStyle): Promise<ImageBitmap | null> {
    return this.tiles.overlays((worker) => worker.overlay(view, style))
  }
  ants(view: Viewport, phases: number): Promise<ImageBitmap[]> {
    return this.tiles.overlays((worker) => worker.ants(view, phases))
  }
  pixel(x: number, y: number) {
    return this.tiles.anyone((worker) => worker.pixel(x, y))
  }
  /** Null when the layers changed before it was done. */
  cover(longest: number): Promise<Blob | null> {
    const epoch = Atomics.load(this.epochs, 0)
    return this.tiles.anyone((worker) => worker.cover(longest, epoch))
  }
}
