/** What a kind of step is, without how it works: the page and the records need no more. How it works stands in core/select, under the same name. */
import { type Fields } from '../fields/fields'
import { type CombineOp } from '../raster/coverage'

/** Which pixels a finder looks at: the active layer alone, or all visible layers together. */
export type Sample = 'layer' | 'all'

/** The fields every finding step has, besides its own. */
export interface FindingFields {
  op: CombineOp
  feather: number
  grow: number
  invert: boolean
}
/** The fields every step has. `id` is the page's handle on a step; it changes nothing. */
export interface CommonFields {
  hidden: boolean
  name?: string
  id?: string
  /** A step that looks at pixels keeps those it was made on: the scene it looks at, and the layer in it that `sample: "layer"` means. Absent: what is there now. */
  scene?: string
  sceneLayer?: string
}

/** A way to find a region. */
export interface FindingKind<K extends string = string, P = object> {
  readonly kind: K
  readonly finds: true
  readonly fields: Fields<P>
  /** True when it looks at pixels, and so takes `sample`. */
  readonly looksAtPixels: boolean
  /** Raised when its algorithm gives other pixels than before; 1 where it is not said. Results are stored with it. */
  readonly version?: number
  /** True when it gives a quick answer while a stroke or handle is still being moved. */
  readonly drafts?: true
  /** Fields of earlier versions, numbers: what each comes to now. */
  readonly earlier?: Readonly<Record<string, (value: number) => Readonly<Record<string, number>>>>
  /** How it combines whatever its `op` says; undefined leaves it to `op`. */
  combines?(params: P): CombineOp | undefined
}

/** A step that changes what the steps above it made. */
export interface ModifyingKind<K extends string = string, P = object> {
  readonly kind: K
  readonly finds: false
  readonly fields: Fields<P>
  /** True when it looks at the pixels of all visible layers. */
  readonly looksAtPixels?: true
  /** As with finding steps. */
  readonly version?: number
  readonly earlier?: FindingKind['earlier']
}
