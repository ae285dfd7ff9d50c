/**
 * Records to pixels, wherever it runs: in the page's worker, on the server, on the command line. Given decoded pictures it makes
 * mattes, masks and placed layers, and remembers what it made, up to a number of bytes.
 */
import { type DecodedPicture, type Node, withPictures } from '@/core/compose/nodes'
import { composeRegion } from '@/core/compose/composeRegion'
import { Renderer } from '@/core/compose/renderer'
import { type Settings } from '@/core/compose/settings'
import { type Affine, compose, IDENTITY, isIdentity } from '@/core/raster/affine'
import { alone, type Crew, seenByAll } from '@/core/parallel/crew'
import { mattePyramid } from '@/core/raster/levels'
import { type DeepPicture, type Matte, type Picture } from '@/core/raster/picture'
import { type Context, type Memory, type Scene } from '@/core/select/finder'
import { type Sample } from '@/core/steps/step'
import { LruCache } from '@/core/cache/lruCache'
import { featherMatte } from '@/core/select/modifiers/feather'
import { type Step } from '@/core/steps/registry'
import { foldSteps } from '@/core/select/steps'
import { byItself, looksOf, sampledLayers, sceneOfArea, sceneOfProject } from '@/document/tree'
import {
  type KeptScene,
  type Layer,
  type LayerMask,
  type PaintLayer,
  type PictureLayer,
  type Project,
  type SceneRecord,
} from '@/document/records'
import { canvasToWindow, windowSize } from '@/document/window'
import { drawInParts, drawWholePictures, type Draw } from './drawInParts'
import { inOwnColours } from './inOwnColours'
import { type MadeMask, type MadePaint, nodesOf } from './nodes'
import { type PaintedPicture, paintedPicture } from './paint'
import { savedIn } from './savedSelections'
import { withId } from '@/document/withId'

/** Throws when the picture is not there. */
export type PictureSource = (asset: string) => DecodedPicture
export type Check = (progress: number) => void

export class Studio {
  readonly memory: Memory
  private readonly renderer: Renderer

  private readonly crew: Crew

  /** @param bytes of results kept @param more threads that take a share; who is told of costly results; and where pictures are too many to be held whole, what draws from parts of them */
  constructor(
    private readonly pictures: PictureSource,
    bytes: number,
    private readonly more: { readonly crew?: Crew; readonly draw?: Draw; readonly costly?: Context['costly'] } = {},
  ) {
    this.crew = more.crew ?? alone
    this.memory = new LruCache(bytes)
    this.renderer = new Renderer(Math.min(bytes / 4, 128 << 20))
  }

  scene(record: SceneRecord, check: Check = () => {}): Scene {
    const { layers, active, canvas, saved } = record
    const identityOf = (shown: readonly Layer[]) =>
      `${canvas.width}×${canvas.height} ${record.linear ? 'linear ' : ''}${looksOf(shown)}`
    const ways = new Map<Sample, readonly Layer[]>(),
      sampled = (what: Sample): readonly Layer[] => {
        const known = ways.get(what) ?? sampledLayers(layers, active, what)
        ways.set(what, known)
        return known
      }
    const before = new Map<string, Scene | undefined>()
    const activeLayer = withId(layers, active)
    const scene: Scene = {
      ...canvas,
      identity: (sample) => identityOf(sampled(sample)),
      picture: (sample) => this.flatten(record, sampled(sample), identityOf(sampled(sample)), check),
      saved: (name) => savedIn(scene, saved, name, []),
      at: (kept, layer) => {
        const key = `${kept} ${layer}`
        if (!before.has(key)) {
          const found = withId(record.scenes, kept)
          before.set(
            key,
            found &&
              this.scene({ ...record, layers: found.layers, linear: found.linear ?? false, active: layer }, check),
          )
        }
        return before.get(key)
      },
      image: (asset) => {
        try {
          return this.pictures(asset).levels[0]
        } catch {
          return undefined
        }
      },
      active: activeLayer && { placement: activeLayer.placement, width: activeLayer.width, height: activeLayer.height },
      layer: (id) => {
        const layer = withId(layers, id)
        if (!layer) return undefined
        const shown = byItself(layers, id, false),
          identity = identityOf(shown)
        return {
          identity,
          picture: () => this.flatten(record, shown, identity, check),
          mask: () => this.maskOnCanvas(record, layer, identity, check),
        }
      },
    }
    return scene
  }

  private flatten(record: SceneRecord, layers: readonly Layer[], identity: string, check: Check): Picture {
    const { canvas } = record
    const shown = layers.filter((layer) => layer.visible),
      [only] = shown
    if (
      shown.length === 1 &&
      only.kind === 'picture' &&
      only.opacity === 1 &&
      !only.mask?.enabled &&
      isIdentity(only.placement)
    ) {
      const [full] = this.pictures(only.asset).levels
      if (full.width === canvas.width && full.height === canvas.height) return full
    }
    const key = `flat ${identity}`
    const known = this.memory.get<Picture>(key)
    if (known) return known
    const made = this.compose({ ...record, layers }, check)
    this.memory.set(key, made, made.data.byteLength)
    return made
  }

  /** A layer's mask as it lies on the canvas; all of it where there is none. */
  private maskOnCanvas(record: SceneRecord, layer: Layer, identity: string, check: Check): Matte {
    const { width, height } = record.canvas
    if (!layer.mask?.enabled) return { width, height, data: new Uint8Array(width * height).fill(255) }
    const key = `mask on canvas ${identity}`
    const known = this.memory.get<Matte>(key)
    if (known) return known
    const { placement, mask } = layer
    const node: Node = {
      kind: 'fill',
      fill: { kind: 'colour', colour: '#ffffff' },
      toCanvas: IDENTITY,
      opacity: 1,
      mask: {
        ...this.mask(mask, record.scenes, check),
        toCanvas: compose(placement, mask.toLayer),
        strength: mask.strength,
        invert: mask.invert,
        outsideShown: mask.outsideShown,
      },
    }
    const { data } = composeRegion([node], { level: 0, x: 0, y: 0, width, height })
    const matte: Matte = { width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[i * 4 + 3]) }
    this.memory.set(key, matte, matte.data.byteLength)
    return matte
  }

  /** What work on steps may use. */
  context(check: Check): Context {
    return { memory: this.memory, crew: this.more.crew, costly: this.more.costly, check }
  }

  matte(steps: readonly Step[], scene: Scene, check: Check, draft = false): Matte {
    return foldSteps(steps, scene, { ...this.context(check), draft })
  }

  /** A mask's mip levels, full size first; feathered, not yet inverted or thinned. */
  mask(mask: LayerMask, scenes: readonly KeptScene[], check: Check = () => {}): MadeMask {
    const scene = this.scene(sceneOfArea(mask, scenes), check)
    const key = `mask ${scene.identity('all')} ${scene.identity('layer')} ${JSON.stringify([mask.recipe.steps, mask.saved, mask.feather ?? 0])}`
    const known = this.memory.get<readonly Matte[]>(key)
    if (known) return { key, levels: known }
    const matte = this.matte(mask.recipe.steps, scene, check)
    const own: Matte = { ...matte, data: matte.data.slice() },
      full = mask.feather ? featherMatte(own, mask.feather) : own
    const levels = mattePyramid({ ...full, data: seenByAll(this.crew, full.data) }, this.crew.allocate)
    this.memory.set(
      key,
      levels,
      levels.reduce((sum, level) => sum + level.data.byteLength, 0),
    )
    return { key, levels }
  }

  /** A painted layer's picture; null where nothing is painted. */
  paint(layer: PaintLayer, scenes: readonly KeptScene[], check: Check = () => {}): MadePaint<DecodedPicture> | null {
    const key = `paint ${layer.width}×${layer.height} ${JSON.stringify(layer.items)}`
    const known = this.memory.get<{ made: PaintedPicture | null }>(key)
    const made = known
      ? known.made
      : paintedPicture(
          layer,
          (item) => this.matte(item.area.recipe.steps, this.scene(sceneOfArea(item.area, scenes), check), check),
          this.context(check),
          this.crew.allocate,
        )
    if (!known)
      this.memory.set(key, { made }, made ? made.levels.reduce((sum, level) => sum + level.data.byteLength, 0) : 64)
    return made && { key, picture: made, x: made.x, y: made.y }
  }

  /** A masked picture layer in the subject's own colours, the part that shows; null where nothing does. */
  fringed(
    layer: PictureLayer,
    scenes: readonly KeptScene[],
    check: Check = () => {},
  ): MadePaint<DecodedPicture> | null {
    const { asset, mask } = layer
    if (!mask) return null
    const made = this.mask(mask, scenes, (p) => check(p / 2)),
      key = `fringe ${asset} ${made.key} ${JSON.stringify([mask.toLayer, mask.invert, mask.outsideShown, mask.fringe, mask.rim])}`
    const known = this.memory.get<{ fringed: MadePaint<DecodedPicture> | null }>(key)
    if (known) return known.fringed
    const fringed = inOwnColours(
      key,
      this.pictures(asset).levels[0],
      mask,
      made.levels,
      (p) => check(0.5 + p / 2),
      this.crew,
    )
    this.memory.set(
      key,
      { fringed },
      fringed ? fringed.picture.levels.reduce((sum, level) => sum + level.data.byteLength, 0) : 64,
    )
    return fringed
  }

  /** Visible layers, ready to be composed, bottom first; pictures by name. */
  private nodes(
    { layers, scenes }: Pick<SceneRecord, 'layers' | 'scenes'>,
    check: Check,
    view?: Affine,
  ): Node<string | DecodedPicture>[] {
    return nodesOf<string | DecodedPicture>(layers, {
      view,
      mask: (mask) => this.mask(mask, scenes, check),
      paint: (layer) => this.paint(layer, scenes, check),
      fringed: (layer) => this.fringed(layer, scenes, check),
      picture: (asset) => asset,
    })
  }

  /** All of the canvas. */
  compose(record: SceneRecord, check: Check = () => {}): Picture {
    return this.draw(this.nodes(record, check), { canvas: record.canvas, linear: record.linear }, check)
  }
  /** All of a project that is delivered. @param layers only these of it, where not all */
  deliver(project: Project, check: Check = () => {}, layers = project.layers): Picture {
    const { nodes, settings } = this.delivered(project, layers, check)
    return this.draw(nodes, settings, check)
  }
  /** The same in 16 bits a channel. */
  deliverDeep(project: Project, check: Check = () => {}, layers = project.layers): DeepPicture {
    const { nodes, settings } = this.delivered(project, layers, check),
      { width, height } = settings.canvas,
      data = new Uint16Array(this.crew.allocate(width * height * 8)),
      drawing = { ...settings, data, nodes }
    if (this.more.draw) this.more.draw(drawing, this.crew, check)
    else drawInParts(drawWholePictures, { ...drawing, nodes: this.held(nodes), stored: null }, this.crew, check)
    return { width, height, data }
  }
  private delivered(project: Project, layers: readonly Layer[], check: Check) {
    const record = { ...sceneOfProject(project), layers }
    return {
      nodes: this.nodes(record, check, canvasToWindow(project)),
      settings: { canvas: windowSize(project), linear: record.linear },
    }
  }
  private readonly held = (nodes: readonly Node<string | DecodedPicture>[]): Node[] =>
    withPictures(nodes, (picture) => (typeof picture === 'string' ? this.pictures(picture) : picture))

  private draw(nodes: readonly Node<string | DecodedPicture>[], settings: Settings, check: Check): Picture {
    const { width, height } = settings.canvas,
      { crew, draw } = this.more
    const drawing = () => ({ ...settings, data: new Uint8ClampedArray(this.crew.allocate(width * height * 4)) })
    if (draw) {
      const whole = { ...drawing(), nodes }
      draw(whole, this.crew, check)
      return { width, height, data: whole.data }
    }
    const held = this.held(nodes)
    if (!crew) {
      this.renderer.show(held, settings)
      return this.renderer.region({ level: 0, x: 0, y: 0, width, height }, check)
    }
    const whole = { ...drawing(), nodes: held, stored: null }
    drawInParts(drawWholePictures, whole, crew, check)
    return { width, height, data: whole.data }
  }
}
