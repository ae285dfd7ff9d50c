/** What the page and its two workers say to each other. Pixels travel as shared memory or transferred bitmaps, never as copies. */
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type Affine } from '@/core/raster/affine'
import { type Box } from '@/core/raster/content'
import { type Matte, type Picture, type Size } from '@/core/raster/picture'
import { type Sample } from '@/core/steps/step'
import { type SimilarColourFields } from '@/core/steps/similarColour'
import { type LiveWireFields } from '@/core/steps/liveWire'
import { type Point } from '@/core/vector/fill'
import { type Step } from '@/core/steps/registry'
import { type DoubtfulSpot } from '@/core/edge/doubts'
import { type FringeOptions } from '@/core/edge/foregroundColours'
import { type Ribbon, type RibbonView } from '@/core/edge/ribbon'
import {
  type KeptScene,
  type LayerMask,
  type PaintLayer,
  type PictureLayer,
  type SceneRecord,
} from '@/document/records'
import { type Node } from '@/core/compose/nodes'
import { type Measures } from '@/core/match/measure'
import { type PhotoWater } from '../newSky'
import { type MatchedLayer } from '@/core/match/surroundings'
import { type SkyPicture } from '@/core/match/skyPicture'
import { type Refs } from './refs'

/** A file and its pixels, decoded by the browser's own threads: straight alpha, no colour conversion. */
export interface DecodedFile {
  readonly file: Blob
  readonly bitmap: ImageBitmap
}

/** A decoded picture in shared memory, with its mip levels. */
export interface SharedPicture {
  readonly levels: readonly Picture[]
  readonly opaque: boolean
  /** Degrees 0-360: the hue the picture has least of. */ readonly rarestHue: number
}
/** A matte in shared memory, with its mip levels. */
export type SharedMatte = readonly Matte[]

/** What a list of steps is folded over. */
export interface SelectRequest extends SceneRecord {
  readonly steps: readonly Step[]
  /** The step whose later changes should be made immediate (its card is open). */
  readonly prepare: string | null
  /** Something is still being moved: a quick answer will do. */
  readonly draft?: boolean
}
/** The same on its way: steps and kept scenes by number. */
export interface SentRequest extends Omit<SelectRequest, 'steps' | 'scenes'> {
  readonly steps: Refs
  readonly scenes: Refs
}
export interface SelectResult {
  readonly matte: SharedMatte
  /** 0-1 */
  readonly selected: number
  /** 0-1 */
  readonly soft: number
  /** The box around what is covered, whole px; null when nothing is. */
  readonly bounds: Box | null
  /** What finders have to say, by step. */
  readonly notes: Readonly<Record<string, string>>
  /** Steps whose stored result earlier versions of their algorithms made. */
  readonly older: readonly string[]
}

/** A wire, px: its pieces from each anchor to the next, and the one from the last to a place; a finished one has no such, and its last piece leads to the first anchor. */
export interface WireSoFar {
  readonly pinned: readonly (readonly Point[])[]
  readonly loose: readonly Point[]
}

/** The boundary as the page needs it: where each px along lies, and what there is to look at. */
export interface UnrolledEdge extends Ribbon {
  readonly doubts: readonly DoubtfulSpot[]
}

export interface PictureWorker {
  /** @param latest shared counters, one for each kind of request: one whose number is no longer the latest gives up */
  /** @param project whose costly results are kept */
  start(latest: SharedArrayBuffer, project: string, events: PictureEvents): void
  /** @param port to another worker that takes a share of long work */
  helpedBy(port: MessagePort): void
  /** It stays open until it has been closed as often as it was opened. */
  open(asset: string): Promise<SharedPicture>
  close(asset: string): void
  /** These decoded pictures stay, too; others go when no request is using them. */
  keep(assets: readonly string[]): void
  /** Opens what a project shows, before anybody asks, and keeps it until it is told what to keep. @param decoding those of them that the page decodes and hands over */
  openEarly(assets: readonly string[], decoding: readonly string[]): void
  /** @param file null where the page could not have it */
  handOver(asset: string, file: DecodedFile | null): void
  /** Null when a newer request overtook it. */
  select(request: SentRequest, number: number): Promise<SelectResult | null>
  /** The steps whose stored result earlier versions made are found anew by the next request. */
  renew(request: SentRequest): Promise<void>
  /** Looks at the pictures before they are asked about, so that first answers are quick. */
  warm(request: SentRequest, number: number): Promise<boolean>
  /** Gives up what is being prepared; it starts again with the next selection that wants it. */
  stopPreparing(): void
  /** The box around what the steps select, whole px; null when that is nothing. */
  selectedBox(request: SentRequest): Promise<Box | null>
  /** The box around the content inside a roughly drawn one; null when there is nothing to fit to. */
  contentBox(request: SentRequest, box: Box, sample: Sample): Promise<Box | null>
  /** The selection as SVG path data within `tolerance` px; pieces below `leastArea` px² are left out. Null when overtaken. */
  trace(request: SentRequest, tolerance: number, leastArea: number, number: number): Promise<string | null>
  /** The wire through its anchors, and from the last one to a place, px; null when overtaken. @param to null for a finished wire @param moving its pieces as they are known will do */
  wire(
    request: SentRequest,
    values: LiveWireFields & { readonly sample: Sample },
    to: Point | null,
    moving: boolean,
    number: number,
  ): Promise<WireSoFar | null>
  /** The outline of the region under a point as SVG path data; null outside the picture, or when overtaken. */
  region(request: SentRequest, at: Point, detail: number, sample: Sample, number: number): Promise<string | null>
  /** The tolerance that a first pick takes from the picture, 0-255. */
  fittingTolerance(request: SentRequest, values: SimilarColourFields & { readonly sample: Sample }): Promise<number>
  /** Small pictures of the things that compete for being the subject, the likeliest first. */
  subjects(request: SentRequest, sample: Sample, longest: number): Promise<ImageBitmap[]>
  /** The matte of the steps in memory of its own. */
  keptMatte(request: SentRequest): Promise<SharedMatte>
  mask(mask: LayerMask, scenes: readonly KeptScene[]): Promise<SharedMatte>
  /** The part of a painted layer that has paint on it, at its place in the layer; null where there is none. */
  paint(
    layer: PaintLayer,
    scenes: readonly KeptScene[],
  ): Promise<{ picture: SharedPicture; x: number; y: number } | null>
  /** A masked picture in the subject's own colours; null where there is none, false when a newer selection overtook it. */
  fringed(
    layer: PictureLayer,
    scenes: readonly KeptScene[],
    number: number,
  ): Promise<{ picture: SharedPicture; x: number; y: number } | null | false>
  /** What the active layer's photo measures, its sky being what the steps select; null when overtaken. */
  measure(request: SentRequest, number: number): Promise<PhotoMeasured | null>
  /** What matches a layer to its surroundings, or why nothing does; null when overtaken. */
  matchLayer(request: SentRequest, layer: string, number: number): Promise<MatchedLayer | string | null>
  /** What the picture of a sky says, or one sentence about why it shows none. @param asset its picture */
  readSky(asset: string): Promise<SkyPicture | string>
  /** The boundary of the steps' matte unrolled, and where it is doubtful; null when overtaken. @param fringe colours are taken out so far */
  ribbon(request: SentRequest, fringe: FringeOptions | null, number: number): Promise<UnrolledEdge | null>
  /** Mean coverage across the boundary of the steps' matte, px by px from `reach` inside to `reach` outside; null where there is none, or when overtaken. */
  acrossEdge(request: SentRequest, reach: number, number: number): Promise<Float32Array | null>
  /** How far the edge of the steps' matte is worth being solved, px; null where its boundary tells nothing, or when overtaken. */
  fittingReach(request: SentRequest, number: number): Promise<number | null>
  /** A part of the last one that was unrolled. */
  ribbonPicture(view: RibbonView): ImageBitmap
  /** The coverage of the steps as a grey PNG at full size. */
  mattePng(request: SentRequest): Promise<Blob>
  /** Small grey pictures of what each finding step covers by itself, by step id. */
  thumbnails(request: SentRequest, longest: number): Promise<Record<string, ImageBitmap>>
}
/** A costly result on its way to the server. */
export interface KeepableResult {
  readonly address: string
  readonly version: string
  readonly matte: Matte
}
export interface PictureEvents {
  /** A result that should outlive this visit. */
  costly(result: KeepableResult): void
  /** One that was kept, read by another thread meanwhile; null where it cannot be had. */
  stored(address: string): Promise<Matte | null>
  progress(what: string, fraction: number | null): void
  curve(step: string, key: string, curve: ToleranceCurve): void
  /** How many pixels lie how far from a palette's colours. */
  histogram(step: string, key: string, shares: readonly number[]): void
}

/** What a photo measures. */
export interface PhotoMeasured {
  readonly measures: Measures
  readonly water: PhotoWater
  /** Why it can have no other sky. */
  readonly problem: string | undefined
}

/** The visible part of the canvas: device pixels = (canvas px − left/top) × scale. */
export interface Viewport {
  readonly left: number
  readonly top: number
  readonly scale: number
  readonly width: number
  readonly height: number
}

export type ViewMode = 'ants' | 'tint' | 'cutout' | 'matte' | 'dimmed' | 'plain'
/** Checks, or a colour as #rrggbb. */
export type Backing = 'checks' | `#${string}`
export interface OverlayStyle {
  readonly mode: ViewMode
  readonly tint: readonly [number, number, number]
  readonly tintOpacity: number
  /** The tint lies over what is not selected. */ readonly tintHidden: boolean
  readonly dim: number
  readonly backing: Backing
  /** What lies behind the tiles; absent: checks. */ readonly behind?: Backing
  /** Beside the kept matte: that one left of a canvas x, or where both differ. */ readonly compare?:
    { readonly leftOf: number } | 'difference'
}

export interface TileWorker {
  /** @param epoch shared counter: tiles asked for under an older number are not made @param bytes of what lies below that may be kept */
  start(epoch: SharedArrayBuffer, bytes: number): void
  /** @param port to a worker with long work, of which this one takes a share between its own requests */
  help(port: MessagePort): void
  /** @param name a new one for each delivery */
  setPicture(name: string, picture: SharedPicture): void
  dropPicture(name: string): void
  /** @param plain the same without masks, adjustments and effects: what was there before */
  setLayers(nodes: readonly Node<string>[], plain: readonly Node<string>[], canvas: Size, linear: boolean): void
  /** @param toCanvas from the matte's pixels to the canvas's */
  setMatte(matte: SharedMatte | null, toCanvas: Affine): void
  /** A matte to compare with. */
  setKept(matte: SharedMatte | null, toCanvas: Affine): void
  /** @param before the pictures as they came: masks off */
  tile(level: number, x: number, y: number, epoch: number, before: boolean): Promise<ImageBitmap | null>
  overlay(view: Viewport, style: OverlayStyle): Promise<ImageBitmap | null>
  /** The first phases of the marching dashes, a bitmap each; empty where there is no edge in view. */
  ants(view: Viewport, phases: number): Promise<ImageBitmap[]>
  /** Red, green, blue, alpha (0-255) of a canvas pixel; null outside. */
  pixel(x: number, y: number): Promise<readonly [number, number, number, number] | null>
  /** A small picture of the whole canvas, between other answers; null when the layers changed before it was done. */
  cover(longest: number, epoch: number): Promise<Blob | null>
  layerThumbnail(nodes: readonly Node<string>[], canvas: Size, linear: boolean, longest: number): Promise<ImageBitmap>
  /** How many pixels have which value: 256 counts each of red, green, blue and luma. */
  histogram(nodes: readonly Node<string>[], canvas: Size, linear: boolean): Promise<readonly Uint32Array[]>
  matteThumbnail(matte: SharedMatte, longest: number): Promise<ImageBitmap>
  /** Sends a costly result to the server; false when it was not taken. */
  keepResult(result: KeepableResult): Promise<boolean>
  readResult(address: string): Promise<Matte | null>
}
/** The name of errors that may pass: a picture could not be fetched now. */
export const UNAVAILABLE = 'PictureUnavailable'
/** Places in the shared counters of the newest requests. */
export const SELECT = 0,
  TRACE = 1,
  HOVER = 2,
  RIBBON = 3,
  MATCH = 4,
  ACROSS = 5,
  FITTING = 6,
  WARM = 7
/** How many such places there are. */
export const COUNTERS = 8
export const TILE = 256
export const ANT_PHASES = 4
/** Larger pictures are picked without a tolerance curve: preparing one takes 6 bytes a pixel of what the worker may keep. */
export const MOST_PREPARED_PIXELS = 106e6
