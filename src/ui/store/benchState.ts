/** What the workbench knows: the records and their history, the tools as they are set, what the screen shows, and what the engine answered. */
import { type Hex } from '@/core/compose/fill'
import { type Box } from '@/core/raster/content'
import { type RampShape } from '@/core/raster/ramp'
import { type CombineOp } from '@/core/raster/coverage'
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { liveWire } from '@/core/steps/liveWire'
import { regions } from '@/core/steps/regions'
import { type Step } from '@/core/steps/registry'
import { type Sample } from '@/core/steps/step'
import { EMPTY_HISTORY, type History } from '@/document/history'
import { type Project, type RecipeHome, SELECTION } from '@/document/types'
import { type Backing, type ViewMode } from '@/engine/page/protocol'
import { type FinderId } from '@/ui/finders/kinds'
import { type Unit } from '@/ui/primitives/units'
import { type SetAside } from './backup'
import { type OutboxState } from './outbox'

/** What a box keeps while it is drawn or stretched; width and height are px, or the ratio's two numbers. */
export interface Proportions {
  readonly mode: 'free' | 'ratio' | 'width' | 'height' | 'size'
  readonly width: number
  readonly height: number
}
export type BoxLines = 'none' | 'centre' | 'grid' | 'golden' | 'spiral' | 'triangle' | 'diagonals'
export type MarkMode = 'outline' | 'keep' | 'drop' | 'unsure'
export type EdgeMode = Exclude<MarkMode, 'outline'>
export type Hand = 'place' | 'brush' | 'bucket' | 'ramp' | 'crop'
export type Stage = 'gather' | 'select' | 'edge' | 'compose' | 'match' | 'export'

export interface BenchState {
  id: string
  phase: 'loading' | 'ready' | 'failed'
  problem: string
  /** The records after the last act. */
  project: Project | null
  /** The records while something is dragged: shown, not yet an act. */
  live: Project | null
  /** The layer worked on, where another was chosen than the records say; choosing is no change of theirs. */
  active: string | null
  history: History
  saving: OutboxState
  /** Changes that could not be saved. */
  aside: readonly SetAside[]
  stage: Stage
  finder: FinderId
  /** The outline still being drawn corner by corner. */
  drawing: string | null
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
  /** An edge kept to compare with, its numbers, and how it is compared. */
  keptEdge: {
    readonly home: RecipeHome
    readonly steps: readonly Step[]
    readonly selected: number
    readonly soft: number
  } | null
  compare: 'off' | 'divider' | 'difference'
  /** The edge ribbon: folded away, how it is shown, the place of the canvas the pointer is over in it, and the doubtful spot that is looked at. */
  ribbon: boolean
  ribbonZoom: number
  ribbonBacking: 'same' | 'picture' | 'matte'
  ribbonAt: readonly [number, number] | null
  doubt: number | null
  /** Asked of the ribbon: the next doubtful spot, or the one before; each asking is a new record. */
  doubtAsked: { readonly by: 1 | -1 } | null
  /** How the next wire is drawn: how far it looks (px), what counts as an edge (levels a px), how soon it pins itself (0-1). */
  wire: { reach: number; edgeGradient: number; cooling: number }
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
  /** Lines inside the open box, and how they are turned (bit 0: across, bit 1: down). */
  boxLines: BoxLines
  boxLinesFlip: number
  /** Columns and rows, where the lines are a grid. */
  boxGrid: readonly [number, number]
  snapping: boolean
  /** What is snapped to now: canvas px. */
  snapped: { readonly x: number | null; readonly y: number | null } | null
  /** The chosen point of the open path. */
  node: { readonly subpath: number; readonly index: number } | null
  /** A path shown over the picture before it is kept. */
  pathShown: string | null
  /** Where on the page the menu of what to make of the selection is open, CSS px. */
  makeAt: readonly [number, number] | null
  view: ViewMode
  /** `below`: the real layers below the active one. */
  backing: Backing | 'below'
  /** #rrggbb; null: the hue rarest in the picture. */
  tint: string | null
  tintOpacity: number
  /** The tint lies over what is hidden instead of what is selected. */
  tintHidden: boolean
  /** How much what is outside is dimmed, 0-1. */
  dim: number
  /** Panels away. */
  bare: boolean
  /** What the pointer does while composing. */
  hand: Hand
  /** What is painted with, and what X swaps it for. */
  colour: Hex
  otherColour: Hex
  bucket: { similar: boolean; tolerance: number }
  ramp: { shape: RampShape; /** It ends in nothing instead of the other colour. */ clear: boolean }
  cropRatio: string
  /** Groups whose layers are not listed, and layers chosen besides the active one. */
  folded: readonly string[]
  chosen: readonly string[]
  /** The layer that is shown alone. */
  solo: string | null
  /** Layers that are not shown for now: how it was before they came. */
  without: readonly string[]
  /** Matching: where what is looked at acts lies over the picture as a tint. */
  acts: boolean
  /** While a key is held: the picture without anything over it, masks off. */
  before: boolean
  /** Nothing lies over the picture but what is selected. */
  marksHidden: boolean
  rulers: boolean
  /** They may be shown. */
  firstSteps: boolean
  /** Boxes are drawn and stretched from their middle; with equal sides: what Alt and Shift do while they are held. */
  boxFromMiddle: boolean
  boxEqual: boolean
  /** The whole picture, small, while only a part is in view. */
  overview: boolean
  dialog: 'commands' | 'help' | null
  /** Left of this canvas x the picture is shown as it came; null: no divider. */
  divider: number | null
  /** The pointer is a fine cross. */
  crosshair: boolean
  result: { selected: number; soft: number; bounds: Box | null } | null
  /** What finders say of what they found, by step. */
  notes: Readonly<Record<string, string>>
  /** Steps whose stored result earlier versions of their algorithms made. */
  older: readonly string[]
  /** A newer result than the one shown is being made. */
  selecting: boolean
  /** Something of the layers shown is being made: the picture on the screen is not final. */
  making: boolean
  curves: Readonly<Record<string, { key: string; curve: ToleranceCurve }>>
  /** How many pixels lie how far from a palette's colours, by step. */
  histograms: Readonly<Record<string, { key: string; shares: readonly number[] }>>
  progress: { what: string; fraction: number } | null
  rarestHue: number
  pointer: readonly [number, number] | null
  pixel: readonly [number, number, number, number] | null
  scale: number
}

export const initial = (id: string): BenchState => ({
  id,
  phase: 'loading',
  problem: '',
  project: null,
  live: null,
  active: null,
  history: EMPTY_HISTORY,
  saving: { unsent: 0, state: 'saved', kept: true },
  aside: [],
  stage: 'select',
  finder: 'similarColour',
  drawing: null,
  home: SELECTION,
  openStep: null,
  focus: 'steps',
  brush: { size: 80, hardness: 1, strength: 1, spacing: 0.1, tip: 'round', erase: false },
  spot: { radius: 60, core: 0.5, spread: 24 },
  marker: { mode: 'keep', size: 24 },
  edgeMode: 'unsure',
  edgeReach: null,
  keptEdge: null,
  compare: 'off',
  ribbon: true,
  ribbonZoom: 1,
  ribbonBacking: 'same',
  ribbonAt: null,
  doubt: null,
  doubtAsked: null,
  wire: {
    reach: liveWire.fields.reach.fallback!,
    edgeGradient: liveWire.fields.edgeGradient.fallback!,
    cooling: 0.5,
  },
  roughLoop: false,
  regionDetail: regions.fields.detail.fallback!,
  nextOp: 'replace',
  proportions: { mode: 'free', width: 3, height: 2 },
  unit: 'px',
  trimLooksAt: 'all',
  boxLines: 'none',
  boxLinesFlip: 0,
  boxGrid: [3, 3],
  snapping: true,
  snapped: null,
  node: null,
  pathShown: null,
  makeAt: null,
  view: 'tint',
  backing: 'checks',
  tint: null,
  tintOpacity: 0.5,
  tintHidden: false,
  dim: 0.7,
  bare: false,
  hand: 'place',
  colour: '#c2410c',
  otherColour: '#ffffff',
  bucket: { similar: true, tolerance: 32 },
  ramp: { shape: 'linear', clear: true },
  cropRatio: 'free',
  folded: [],
  chosen: [],
  solo: null,
  without: [],
  acts: false,
  before: false,
  marksHidden: false,
  rulers: false,
  firstSteps: true,
  boxFromMiddle: false,
  boxEqual: false,
  overview: true,
  dialog: null,
  divider: null,
  crosshair: false,
  result: null,
  notes: {},
  older: [],
  selecting: false,
  making: true,
  curves: {},
  histograms: {},
  progress: null,
  rarestHue: 265,
  pointer: null,
  pixel: null,
  scale: 1,
})
