/**
 * Records to pixels, wherever it runs: in the page's worker, on the server, on the command line. Given decoded pictures it makes
 * mattes, masks and placed layers, and remembers what it made, up to a number of bytes.
 */
import { composeRegion, type PlacedPicture } from '@/core/compose/composeRegion'
import { compose, isIdentity } from '@/core/raster/affine'
import { mattePyramid } from '@/core/raster/levels'
import { type Matte, type Picture, type Size } from '@/core/raster/picture'
import { type Context, type Memory, type Sample, type Scene } from '@/core/select/finder'
import { BoundedMemory } from '@/core/select/memory'
import { type Step } from '@/core/select/registry'
import { foldSteps } from '@/core/select/steps'
import { type Layer, type LayerMask } from '@/document/types'

export interface DecodedPicture { readonly levels: readonly Picture[]; readonly opaque: boolean }

/** Throws when the picture is not there. */
export type PictureSource = (asset: string) => DecodedPicture
export type Check = (progress: number) => void

/** What decides how layers look: their names do not. */
const looks = (layers: readonly Layer[]): string => JSON.stringify(layers.map(({ name, ...rest }) => { void name; return rest }))

export class Studio {
  readonly memory: Memory

  constructor(private readonly pictures: PictureSource, bytes: number) { this.memory = new BoundedMemory(bytes) }

  /** @param layers all layers, bottom first @param active the one that `sample: "layer"` means */
  scene(layers: readonly Layer[], active: string | null, canvas: Size, check: Check = () => {}): Scene {
    const shown = layers.filter((layer) => layer.visible)
    const activeLayer = layers.filter((layer) => layer.id === active).map((layer) => ({ ...layer, visible: true, opacity: 1, mask: null }))
    const sampled = (sample: Sample) => (sample === 'all' ? shown : activeLayer)
    const identity = (sample: Sample) => `${canvas.width}×${canvas.height} ${looks(sampled(sample))}`
    return { ...canvas, identity, picture: (sample) => this.flatten(sampled(sample), identity(sample), canvas, check) }
  }

  private flatten(layers: readonly Layer[], identity: string, canvas: Size, check: Check): Picture {
    if (layers.length === 1 && layers[0].opacity === 1 && !layers[0].mask && isIdentity(layers[0].placement)) {
      const [full] = this.pictures(layers[0].asset).levels
      if (full.width === canvas.width && full.height === canvas.height) return full
    }
    const key = `flat ${identity}`
    const known = this.memory.get<Picture>(key)
    if (known) return known
    const made = composeRegion(this.placed(layers, check), { level: 0, x: 0, y: 0, ...canvas })
    this.memory.set(key, made, made.data.byteLength)
    return made
  }

  matte(steps: readonly Step[], scene: Scene, check: Check, stepDone?: Context['stepDone']): Matte {
    return foldSteps(steps, scene, { memory: this.memory, check, stepDone })
  }

  /** A mask's mip levels, full size first. */
  maskLevels(mask: LayerMask, check: Check = () => {}): readonly Matte[] {
    const scene = this.scene(mask.scene, mask.sceneLayer, mask.frame, check)
    const key = `mask ${scene.identity('all')} ${scene.identity('layer')} ${JSON.stringify(mask.recipe.steps)}`
    const known = this.memory.get<readonly Matte[]>(key)
    if (known) return known
    const matte = this.matte(mask.recipe.steps, scene, check)
    const levels = mattePyramid({ ...matte, data: matte.data.slice() })
    this.memory.set(key, levels, levels.reduce((sum, level) => sum + level.data.byteLength, 0))
    return levels
  }

  /** Visible layers, ready to be composed. Bottom first. */
  placed(layers: readonly Layer[], check: Check = () => {}): PlacedPicture[] {
    return layers.filter((layer) => layer.visible && layer.opacity > 0).map((layer) => this.placedLayer(layer, check))
  }

  placedLayer(layer: Layer, check: Check = () => {}): PlacedPicture {
    const { levels, opaque } = this.pictures(layer.asset)
    const mask = layer.mask?.enabled ? { levels: this.maskLevels(layer.mask, check), toCanvas: compose(layer.placement, layer.mask.toLayer) } : undefined
    return { levels, opaque, toCanvas: layer.placement, opacity: layer.opacity, mask }
  }
}
