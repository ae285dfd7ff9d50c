/** What is worked on, and what is about to be drawn: the tools as they are set. */
import { type Hex } from '@/core/compose/fill'
import { type CombineOp } from '@/core/raster/coverage'
import { type RampShape } from '@/core/raster/ramp'
import { colourSpot } from '@/core/steps/colourSpot'
import { liveWire } from '@/core/steps/liveWire'
import { STROKE_DEFAULTS } from '@/core/steps/paint'
import { regions } from '@/core/steps/regions'
import { similarColour } from '@/core/steps/similarColour'
import { type Sample } from '@/core/steps/step'
import { type RecipeHome, SELECTION } from '@/document/records'
import { type FinderId } from '@/ui/finders/kinds'
import { type Unit } from '@/ui/primitives/units'

/** What a box keeps while it is drawn or stretched; width and height are px, or the ratio's two numbers. */
export interface Proportions {
  readonly mode: 'free' | 'ratio' | 'width' | 'height' | 'size'
  readonly width: number
  readonly height: number
}
export type MarkMode = 'outline' | 'keep' | 'drop' | 'unsure'
export type EdgeMode = Exclude<MarkMode, 'outline'>
export type Hand = 'place' | 'brush' | 'bucket' | 'ramp' | 'crop'

export interface ToolRoom {
  finder: FinderId
  /** The outline still being drawn corner by corner. */
  drawing: string | null
  /** The act after which that was begun. */
  drawnFrom: string | null
  home: RecipeHome
  /** The step that is open and whose handles show. */
  openStep: string | null
  /** What is worked on while no step is open: whose steps are shown, or the active layer. See focus.ts. */
  focus: 'steps' | 'layer'
  brush: { size: number; hardness: number; strength: number; spacing: number; tip: 'round' | 'square'; erase: boolean }
  spot: { radius: number; core: number; spread: number }
  /** What is marked with, and its size on the picture, px. */
  marker: { mode: MarkMode; size: number }
  /** What the next stroke along the edge says. */
  edgeMode: EdgeMode
  /** How far the next edge is solved on either side, px; null where nothing says so. */
  edgeReach: number | null
  /** How the next wire is drawn: how far it looks (px), what counts as an edge (CIELAB units a px), whether it goes along the object its anchors lie on, how soon it pins itself (0-1). */
  wire: { reach: number; edgeGradient: number; followObject: boolean; cooling: number }
  /** Rough boxes are drawn as loops. */
  roughLoop: boolean
  /** How fine the regions under the pointer are, 0-1. */
  regionDetail: number
  /** What the next use of a tool does when no key says so: it comes instead of what is selected, or combines with it. */
  nextOp: CombineOp | 'replace'
  /** The proportions new and stretched boxes keep. */
  proportions: Proportions
  /** The unit lengths are shown and typed in. */
  unit: Unit
  /** What trimming a box to its content looks at. */
  trimLooksAt: Sample
  /** Columns and rows, where the lines are a grid. */
  boxGrid: readonly [number, number]
  snapping: boolean
  /** The chosen point of the open path. */
  node: { readonly subpath: number; readonly index: number } | null
  /** What the pointer does while composing. */
  hand: Hand
  /** What is painted with, and what X swaps it for. */
  colour: Hex
  otherColour: Hex
  bucket: { similar: boolean; tolerance: number }
  ramp: { shape: RampShape; /** It ends in nothing instead of the other colour. */ clear: boolean }
  cropRatio: string
  chosen: readonly string[]
  /** Boxes are drawn and stretched from their middle; with equal sides: what Alt and Shift do while they are held. */
  boxFromMiddle: boolean
  boxEqual: boolean
}

export const initialTool: ToolRoom = {
  finder: 'similarColour',
  drawing: null,
  drawnFrom: null,
  home: SELECTION,
  openStep: null,
  focus: 'steps',
  brush: { size: 80, ...STROKE_DEFAULTS },
  spot: { radius: 60, core: colourSpot.fields.core.fallback!, spread: colourSpot.fields.spread.fallback! },
  marker: { mode: 'keep', size: 24 },
  edgeMode: 'unsure',
  edgeReach: null,
  wire: {
    reach: liveWire.fields.reach.fallback!,
    edgeGradient: liveWire.fields.edgeGradient.fallback!,
    // Each piece was seen and taken as it was drawn; a recipe has its anchors alone.
    followObject: false,
    cooling: 0.5,
  },
  roughLoop: false,
  regionDetail: regions.fields.detail.fallback!,
  nextOp: 'replace',
  proportions: { mode: 'free', width: 3, height: 2 },
  unit: 'px',
  trimLooksAt: 'all',
  boxGrid: [3, 3],
  snapping: true,
  node: null,
  hand: 'place',
  colour: '#c2410c',
  otherColour: '#ffffff',
  bucket: { similar: true, tolerance: similarColour.fields.tolerance.fallback! },
  ramp: { shape: 'linear', clear: true },
  cropRatio: 'free',
  chosen: [],
  boxFromMiddle: false,
  boxEqual: false,
}
