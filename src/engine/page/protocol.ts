/** What the page and its two workers say to each other. Pixels travel as shared memory or transferred bitmaps, never as copies. */
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type Affine } from '@/core/raster/affine'
import { type Matte, type Picture, type Size } from '@/core/raster/picture'
import { type Step } from '@/core/select/registry'
import { type Layer, type LayerMask } from '@/document/types'

/** A decoded picture in shared memory, with its mip levels. */
export interface SharedPicture { readonly levels: readonly Picture[]; readonly opaque: boolean; /** Degrees 0-360: the hue the picture has least of. */ readonly rarestHue: number }
/** A matte in shared memory, with its mip levels. */
export type SharedMatte = readonly Matte[]

/** What a list of steps is folded over. */
export interface SelectRequest {
  readonly layers: readonly Layer[]
  readonly active: string | null
  readonly canvas: Size
  readonly steps: readonly Step[]
  /** The step whose later changes should be made immediate (its card is open). */
  readonly prepare: string | null
}
export interface SelectResult {
  readonly matte: SharedMatte
  /** 0-1 */
  readonly selected: number
  /** 0-1 */
  readonly soft: number
}

export interface PictureWorker {
  /** @param latest shared counter: a request whose number is no longer the latest gives up */
  start(latest: SharedArrayBuffer, events: PictureEvents): void
  open(asset: string): Promise<SharedPicture>
  /** Forgets decoded pictures other than these. */
  keep(assets: readonly string[]): void
  /** Null when a newer request overtook it. */
  select(request: SelectRequest, number: number): Promise<SelectResult | null>
  /** Looks at the pictures before they are asked about, so that first answers are quick. */
  warm(request: SelectRequest): Promise<void>
  /** Gives up what is being prepared; it starts again with the next selection that wants it. */
  stopPreparing(): void
  mask(mask: LayerMask): Promise<SharedMatte>
  /** Small grey pictures of what each finding step covers by itself, by step id. */
  thumbnails(request: SelectRequest, longest: number): Promise<Record<string, ImageBitmap>>
}
export interface PictureEvents {
  progress(what: string, fraction: number | null): void
  curve(step: string, key: string, curve: ToleranceCurve): void
}

export interface PlacedSpec {
  readonly asset: string
  readonly toCanvas: Affine
  readonly opacity: number
  readonly mask?: { readonly levels: SharedMatte; readonly toCanvas: Affine }
}

/** The visible part of the canvas: device pixels = (canvas px − left/top) × scale. */
export interface Viewport { readonly left: number; readonly top: number; readonly scale: number; readonly width: number; readonly height: number }

export type ViewMode = 'ants' | 'tint' | 'cutout' | 'matte' | 'dimmed' | 'plain'
export type Backing = 'checks' | 'white' | 'black' | 'grey'
export interface OverlayStyle { readonly mode: ViewMode; readonly tint: readonly [number, number, number]; readonly tintOpacity: number; readonly dim: number; readonly backing: Backing }

export interface TileWorker {
  /** @param epoch shared counter: tiles asked for under an older number are not made */
  start(epoch: SharedArrayBuffer): void
  setPicture(asset: string, picture: SharedPicture): void
  keep(assets: readonly string[]): void
  setLayers(layers: readonly PlacedSpec[], canvas: Size): void
  /** @param toCanvas from the matte's pixels to the canvas's */
  setMatte(matte: SharedMatte | null, toCanvas: Affine): void
  tile(level: number, x: number, y: number, epoch: number): Promise<ImageBitmap | null>
  overlay(view: Viewport, style: OverlayStyle): Promise<ImageBitmap | null>
  /** One bitmap for each phase of the marching dashes; empty where there is no edge in view. */
  ants(view: Viewport): Promise<ImageBitmap[]>
  /** Red, green, blue, alpha (0-255) of a canvas pixel; null outside. */
  pixel(x: number, y: number): Promise<readonly [number, number, number, number] | null>
  cover(longest: number): Promise<Blob>
  layerThumbnail(asset: string, longest: number): Promise<ImageBitmap>
  matteThumbnail(matte: SharedMatte, longest: number): Promise<ImageBitmap>
}
export const TILE = 256
export const ANT_PHASES = 4
/** Larger pictures are picked without a tolerance curve: preparing one takes 6 bytes a pixel of what the worker may keep. */
export const MOST_PREPARED_PIXELS = 106e6
