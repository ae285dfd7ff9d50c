/** What a finder is, what it gets to look at, and what it may use while it works. */
import { type Affine } from '../raster/affine'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { type Crew } from '../parallel/crew'
import { type Memory } from '../cache/lruCache'
import { type FindingKind, type ModifyingKind, type Sample } from '../steps/step'

/** A selection kept under a name: what decides it, and its matte. */
export interface SavedSelection {
  readonly identity: string
  matte(context: Context): Matte
}

export interface Scene extends Size {
  /** By name or id; undefined where there is none. */
  saved?(selection: string): SavedSelection | undefined
  /** A picture by name, for steps that are made of one; undefined where there is none. */
  image?(asset: string): Picture | undefined
  /** Where the active layer lies, and its size in its own pixels. */
  readonly active?: { readonly placement: Affine; readonly width: number; readonly height: number }
  /** Another layer as it lies on the canvas, and its mask there; undefined where there is none. */
  layer?(id: string): { readonly identity: string; picture(): Picture; mask(): Matte } | undefined
  /** The sampled pixels at the canvas's full size. */
  picture(sample: Sample): Picture
  /** The scene that a step was made on, by the name it is kept under, with the layer that was active then; undefined where it is not known. */
  at?(kept: string, layer: string): Scene | undefined
  /** Changes whenever those pixels change; results are remembered under it. */
  identity(sample: Sample): string
}

export type { Memory }

export class Cancelled extends Error {
  constructor() {
    super('Cancelled.')
  }
}

/** A result that is worth keeping: everything that decides it, and which versions of the algorithms made it. */
export interface CostlyResult {
  readonly key: string
  readonly version: string
  readonly matte: Matte
}

export interface Context {
  readonly memory: Memory
  /** Other threads that take a share of long work; absent: there are none. */
  readonly crew?: Crew
  /** A stroke or handle is still being moved: finders that make drafts give a quick answer now, the true one comes after. */
  readonly draft?: boolean
  /** False: finders by object go without the network (core/network), by colours, edges and reach alone. */
  readonly network?: boolean
  /** Reports progress (0-1) and throws Cancelled when the work is no longer wanted. Call it every few milliseconds of work. */
  readonly check: (progress: number) => void
  /** Told of what took time to find, so that it can be kept beyond this run. The matte may not be written into. */
  readonly costly?: (result: CostlyResult) => void
  /** Told after each step: how long it took, whether its result was remembered, and what its finder has to say. */
  readonly stepDone?: (index: number, kind: string, milliseconds: number, remembered: boolean, note?: string) => void
}

/**
 * What a finder found. `passing` means the finder goes on using the memory: it is valid until the next find, and is copied to be
 * kept. "slow": finding it again takes time, so it is kept wherever other steps stand beside it; "quick": it is not worth keeping.
 */
export interface Found extends Matte {
  readonly passing?: 'quick' | 'slow'
  /** One sentence for people, where there is something to know about what was found, or why nothing was. */
  readonly note?: string
}

/** A way to find a region: its description (core/steps), and how it works. */
export interface Finder<K extends string = string, P = object> extends FindingKind<K, P> {
  find(scene: Scene, params: P & { sample: Sample }, context: Context): Found
  /** What else than its fields and the picture decides the result. */
  dependsOn?(scene: Scene, params: P): string
  /**
   * Work that makes later changes of this step immediate (a cost map, a region tree), in slices: it yields its progress (0-1)
   * every few milliseconds, and leaves what it made in the context's memory. Absent where there is nothing to prepare.
   */
  prepare?(scene: Scene, params: P & { sample: Sample }, context: Context): Generator<number, void>
}

/** A step that changes what the steps above it made. It may write into `matte`, which is its own. */
export interface Modifier<K extends string = string, P = object> extends ModifyingKind<K, P> {
  modify(matte: Matte, params: P, context: Context, scene: Scene): Matte
  /** One sentence for people about what it is asked to change, where there is something to know. */
  note?(matte: Matte, params: P): string | undefined
}
