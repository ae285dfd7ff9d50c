/** How the picture and the panels are shown. */
import { type Step } from '@/core/steps/registry'
import { type RecipeHome } from '@/document/records'
import { type Backing, type ViewMode } from '@/engine/page/protocol'

export type BoxLines = 'none' | 'centre' | 'grid' | 'golden' | 'spiral' | 'triangle' | 'diagonals'
export type Stage = 'gather' | 'select' | 'edge' | 'compose' | 'match' | 'export'

export interface ViewRoom {
  stage: Stage
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
  /** Lines inside the open box, and how they are turned (bit 0: across, bit 1: down). */
  boxLines: BoxLines
  boxLinesFlip: number
  /** What is snapped to now: canvas px. */
  snapped: { readonly x: number | null; readonly y: number | null } | null
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
  /** Groups whose layers are not listed, and layers chosen besides the active one. */
  folded: readonly string[]
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
  /** The whole picture, small, while only a part is in view. */
  overview: boolean
  dialog: 'commands' | 'help' | null
  /** Left of this canvas x the picture is shown as it came; null: no divider. */
  divider: number | null
  /** The pointer is a fine cross. */
  crosshair: boolean
  pointer: readonly [number, number] | null
  scale: number
}

export const initialView: ViewRoom = {
  stage: 'select',
  keptEdge: null,
  compare: 'off',
  ribbon: true,
  ribbonZoom: 1,
  ribbonBacking: 'same',
  ribbonAt: null,
  doubt: null,
  doubtAsked: null,
  boxLines: 'none',
  boxLinesFlip: 0,
  snapped: null,
  pathShown: null,
  makeAt: null,
  view: 'tint',
  backing: 'checks',
  tint: null,
  tintOpacity: 0.5,
  tintHidden: false,
  dim: 0.7,
  bare: false,
  folded: [],
  solo: null,
  without: [],
  acts: false,
  before: false,
  marksHidden: false,
  rulers: false,
  firstSteps: true,
  overview: true,
  dialog: null,
  divider: null,
  crosshair: false,
  pointer: null,
  scale: 1,
}
