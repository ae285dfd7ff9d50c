/** The layers that are shown: their pictures opened, masks and paint made and held as long as they are needed, and given to the tiles. */
import { type Remote } from 'comlink'
import { type Node } from '@/core/compose/nodes'
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { isShown } from '@/document/shown'
import { layersBelow, picturesOf, withDescendants } from '@/document/tree'
import {
  type KeptScene,
  type Layer,
  type LayerMask,
  type PaintLayer,
  type PictureLayer,
  type SceneRecord,
} from '@/document/records'
import { nodesOf, takesFringeOut } from '../nodes'
import { type EngineEvents } from './events'
import { Held, type Hold, Holds } from './held'
import { maskKey, textOf } from './keys'
import { type PictureWorker, SELECT, type SharedMatte, type SharedPicture } from './protocol'
import { Missing } from './missing'
import { type TilePool } from './tiles/pool'
import { type Cut, type Delivered, type MadeNow, type Placed } from './delivered'

/** How long after it was overtaken the taking out of fringe colours is tried again, ms. */
const TRY_AGAIN = 400
/** Masks of earlier values that are kept, for undo. */
const MASKS_KEPT = 3

export class ShownLayers {
  private readonly pictures = new Held<Delivered>(({ name }, asset) => {
    void this.tiles.tell((worker) => worker.dropPicture(name))
    void this.picture.close(asset)
  })
  private readonly masks = new Held<SharedMatte>()
  private readonly placed = new Held<Placed | null>(
    (placed) => void (placed && this.tiles.tell((worker) => worker.dropPicture(placed.name))),
  )
  private readonly recentMasks = new Set<string>()
  /** What the layers shown hold. */
  private shown = new Holds()
  /** Pictures that will probably be shown next. */
  private coming = new Holds()
  /** All of some layers has been shown once. */
  private opened = false
  /** What the project showed when it was opened: its cover shows that, and nothing that was changed since. */
  private first: readonly Layer[] | undefined
  private turn = 0
  private deliveries = 0
  private readonly missing = new Missing((sentence) => this.events.failed(sentence))

  /** @param latest the newest requests' numbers @param epochs what tiles are asked for under */
  constructor(
    private readonly picture: Remote<PictureWorker>,
    private readonly tiles: TilePool,
    private readonly events: EngineEvents,
    private readonly latest: Int32Array,
    private readonly epochs: Int32Array,
  ) {}

  close(): void {
    this.missing.close()
    this.turn++
  }

  /** Gives a picture to the tiles under a name of its own. */
  private async deliver(picture: SharedPicture): Promise<string> {
    const name = `picture ${++this.deliveries}`
    await this.tiles.tell((worker) => worker.setPicture(name, picture))
    return name
  }

  private openPicture(asset: string): Hold<Delivered> {
    return this.pictures.hold(asset, async () => {
      const picture = await this.picture.open(asset)
      const name = await this.deliver(picture)
      this.events.opened(asset, picture)
      return { name }
    })
  }

  /** Opens pictures that will probably be shown next, and lets go of those it was told before. */
  expect(assets: readonly string[]): void {
    const holds = new Holds()
    // What cannot be had now is asked for again when it is shown.
    for (const asset of assets) holds.add(this.openPicture(asset)).ready.catch(() => {})
    this.coming.release()
    this.coming = holds
  }

  /** Shows these layers. Pictures are loaded, masks and paint made as needed; a layer for which one of them cannot be had is left out, and what cannot be had is said. @param cut a matte that masks one of them for now */
  async setLayers(
    { layers, scenes, linear }: SceneRecord,
    view: { readonly size: Size; readonly fromCanvas: Affine },
    cut?: Cut,
  ): Promise<void> {
    const turn = ++this.turn,
      holds = new Holds()
    const again = () => {
      if (turn === this.turn) void this.setLayers({ layers, scenes, linear } as SceneRecord, view, cut)
    }
    const show = (made: MadeNow, partly = false) => {
      const there = layers.map((layer) => (made.failed.has(layer.id) ? { ...layer, visible: false } : layer))
      const asCame = there.filter((layer) => layer.kind !== 'adjust').map((layer) => ({ ...layer, mask: null }))
      const placed = { ...made, view: view.fromCanvas },
        nodes = nodesOf(there, placed),
        plain = nodesOf(asCame, placed)
      const told = this.tiles.tell((worker) => worker.setLayers(nodes, plain, view.size, linear))
      this.events.layersChanged(Atomics.add(this.epochs, 0, 1) + 1, partly) // tiles asked for now come after it in the thread's turn
      return told
    }
    this.first ??= layers
    // The first time pictures are shown as they come, masks as they are ready; later the older picture stands until all is there.
    const soFar = (made: MadeNow) => {
      if (turn === this.turn && !this.opened) void show(made, layers === this.first)
    }
    // Where nothing is missing it goes on at once: a slider's values should not wait for the page to be drawn.
    const ready = this.make(layers, scenes, holds, cut, again, soFar)
    if (ready instanceof Promise) this.events.making(true)
    const made = ready instanceof Promise ? await ready : ready
    if (turn !== this.turn) {
      holds.release()
      return
    }
    this.opened = true
    const told = show(made)
    this.shown.release()
    this.shown = holds
    this.keep({ layers, scenes })
    this.missing.tell(made.failed, again)
    this.events.making(made.failed.size === 0 && !holds.complete)
    await told
  }

  /** Hidden layers' pictures stay open, and what steps look at; so do a few masks, for undo. */
  private keep(shown: Pick<SceneRecord, 'layers' | 'scenes'>): void {
    const assets = picturesOf(shown).map((picture) => picture.asset)
    this.pictures.keep(assets)
    void this.picture.keep(assets)
    for (const layer of shown.layers)
      if (layer.mask) {
        const key = maskKey(layer.mask)
        this.recentMasks.delete(key)
        this.recentMasks.add(key)
      }
    const most = shown.layers.filter((layer) => layer.mask).length + MASKS_KEPT
    for (const key of [...this.recentMasks].slice(0, Math.max(0, this.recentMasks.size - most)))
      this.recentMasks.delete(key)
    this.masks.keep(this.recentMasks)
  }

  /** Opens the pictures and makes the masks and paint of the layers that are shown; a promise only where something is not there yet. Colours without fringe come later: `again` is called when there are more of them; `soFar` with what is there whenever something arrives. */
  private make(
    layers: readonly Layer[],
    scenes: readonly KeptScene[],
    holds: Holds,
    cut?: Cut,
    again?: () => void,
    soFar?: (made: MadeNow) => void,
  ): MadeNow | Promise<MadeNow> {
    const masks = new Map<LayerMask, { key: string; levels: SharedMatte }>(),
      pictures = new Map<string, string>(),
      placed = new Map<Layer, Placed | null>(),
      failed = new Map<string, unknown>(),
      open: Promise<void>[] = []
    const take = <T>(layer: Layer, hold: Hold<T>, put: (value: T) => void) => {
      holds.add(hold)
      if (hold.made) put(hold.made.value)
      else
        open.push(
          hold.ready.then(
            (value) => {
              put(value)
              soFar?.(made())
            },
            (error: unknown) => {
              failed.set(layer.id, error)
            },
          ),
        )
    }
    for (const layer of layers) {
      if (!isShown(layers, layer.id)) continue
      const mask = layer.mask?.enabled && layer.id !== cut?.layer ? layer.mask : null
      if (mask) {
        const key = maskKey(mask)
        take(layer, this.mask(mask, scenes), (levels) => masks.set(mask, { key, levels }))
      }
      if (layer.kind === 'picture')
        take(layer, this.openPicture(layer.asset), ({ name }) => pictures.set(layer.asset, name))
      if (layer.kind === 'picture' && mask && takesFringeOut(layer)) {
        const coming = holds.add(this.fringed(layer, mask, scenes))
        if (coming.made) placed.set(layer, coming.made.value)
        else if (again) coming.ready.then(again, () => {})
      }
      if (layer.kind === 'paint') take(layer, this.paint(layer, scenes), (value) => placed.set(layer, value))
    }
    const placedFor = (layer: PaintLayer | PictureLayer) => {
      const found = placed.get(layer)
      return found ? { key: found.name, picture: found.name, x: found.x, y: found.y } : null
    }
    const made = (): MadeNow => ({
      mask: (mask) => masks.get(mask) ?? null,
      picture: (asset) => pictures.get(asset) ?? '',
      paint: placedFor,
      fringed: placedFor,
      instead: cut && {
        layer: cut.layer,
        toCanvas: cut.toCanvas,
        mask: { key: `cut ${++this.deliveries}`, levels: cut.levels },
      },
      failed,
    })
    return open.length ? Promise.all(open).then(made) : made()
  }

  private mask(mask: LayerMask, scenes: readonly KeptScene[]): Hold<SharedMatte> {
    return this.masks.hold(maskKey(mask), () => this.picture.mask(mask, scenes))
  }

  /** A painted layer's picture. */
  private paint(layer: PaintLayer, scenes: readonly KeptScene[]): Hold<Placed | null> {
    return this.placed.hold(`paint ${layer.width}×${layer.height} ${textOf(layer.items)}`, async () => {
      const done = await this.picture.paint(layer, scenes)
      return done && { name: await this.deliver(done.picture), x: done.x, y: done.y }
    })
  }

  /** A masked picture in the subject's own colours; tried again when a newer selection overtook it. */
  private fringed(layer: PictureLayer, mask: LayerMask, scenes: readonly KeptScene[]): Hold<Placed | null> {
    const { toLayer, invert, outsideShown, fringe, rim } = mask
    const key = `fringe ${layer.asset} ${toLayer.join()} ${invert} ${outsideShown} ${fringe} ${rim} ${maskKey(mask)}`
    return this.placed.hold(key, async (wanted) => {
      for (;;) {
        const done = await this.picture.fringed(layer, scenes, Atomics.load(this.latest, SELECT))
        if (done) return { name: await this.deliver(done.picture), x: done.x, y: done.y }
        if (done === null) return null
        if (!wanted()) throw new Error('Nobody waits for it any more.')
        await new Promise((later) => setTimeout(later, TRY_AGAIN))
      }
    })
  }

  /** What some layers look like, asked aside of what is shown. */
  private async aside<T>(
    layers: readonly Layer[],
    scenes: readonly KeptScene[],
    ask: (nodes: Node<string>[]) => Promise<T>,
  ): Promise<T> {
    const holds = new Holds()
    try {
      const made = await this.make(layers, scenes, holds)
      return await ask(
        nodesOf(
          layers.filter((layer) => !made.failed.has(layer.id)),
          made,
        ),
      )
    } finally {
      holds.release()
    }
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
      }
    })
    return this.aside(family, scenes, (nodes) =>
      this.tiles.anyone((worker) => worker.layerThumbnail(nodes, canvas, linear, longest)),
    )
  }

  async maskThumbnail(mask: LayerMask, scenes: readonly KeptScene[], longest: number): Promise<ImageBitmap> {
    const hold = this.mask(mask, scenes)
    try {
      const matte = await hold.ready
      return await this.tiles.anyone((worker) => worker.matteThumbnail(matte, longest))
    } finally {
      hold.release()
    }
  }

  /** Of what an adjustment works on. */
  async histogram(layer: string, { layers, scenes, canvas, linear }: SceneRecord): Promise<readonly Uint32Array[]> {
    return this.aside(layersBelow(layers, layer), scenes, (nodes) =>
      this.tiles.anyone((worker) => worker.histogram(nodes, canvas, linear)),
    )
  }
}
