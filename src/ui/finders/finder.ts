/** What a finder needs on the page: its place and words, what a press on the canvas does, its handles, its card's values. */
import { type ComponentType } from 'react'
import { type CombineOp } from '@/core/raster/coverage'
import { type Size } from '@/core/raster/picture'
import { type StepOfKind } from '@/core/steps/registry'
import { type RecipeHome } from '@/document/records'
import { type FinderId, type FinderKind } from './kinds'

export type Group = 'shape' | 'outline' | 'colour' | 'brush' | 'object'
export interface Modifiers {
  readonly shift: boolean
  readonly alt: boolean
  /** Not to be drawn to what is near (Ctrl or Cmd held). */ readonly free: boolean
  /** 0-1, from a pen that tells it. */ readonly pressure?: number
}

/** A press in progress. Points are in the steps' coordinates; `screen` in CSS px. */
export interface Drag {
  move(point: readonly [number, number], modifiers: Modifiers, screen: readonly [number, number]): void
  end(): void
  /** Taken back before it ended. */
  cancel?(): void
}
export interface Press {
  readonly home: RecipeHome
  readonly point: readonly [number, number]
  readonly screen: readonly [number, number]
  /** CSS px for one px of the steps' coordinates. */
  readonly scale: number
  /** How the new step combines. */
  readonly op: CombineOp
  /** True when it comes instead of all there are. */
  readonly replaces: boolean
  /** True when a further step is asked for; otherwise the open step of this kind goes on, or is made again. */
  readonly further: boolean
  /** True when keys held ask for it. */
  readonly keys: boolean
  /** True when nothing is selected by the steps before it. */
  readonly first: boolean
  /** The pen's pressure at the press, 0-1, where it tells it. */
  readonly pressure?: number
  /** True when Shift was held. */
  readonly shift: boolean
  /** The colour shown at the press, red, green, blue, alpha 0-255; null outside the canvas. */
  readonly readPixel: () => Promise<readonly [number, number, number, number] | null>
}

export interface HandlesProps<S> {
  readonly step: S
  readonly home: RecipeHome
  readonly toScreen: (x: number, y: number) => [number, number]
  readonly fromScreen: (x: number, y: number) => [number, number]
  /** Where the pointer is, CSS px. */ readonly pointer: readonly [number, number] | null
}
export interface PanelProps<S> {
  readonly step: S
  readonly home: RecipeHome
}

export interface FinderPage<K extends FinderKind> {
  readonly id: FinderId
  /** The kind of step it makes; two finders may make one kind in different ways. */
  readonly kind: K
  readonly name: string
  readonly group: Group
  readonly icon: ComponentType<{ size?: number; className?: string }>
  /** What to do next with it, one sentence or two. */
  readonly hint: string
  readonly summary: (step: StepOfKind<K>) => string
  /** @param open the open step, when it is of this kind */
  readonly press: (press: Press, open: StepOfKind<K> | undefined) => Drag
  readonly Handles: ComponentType<HandlesProps<StepOfKind<K>>>
  readonly Panel: ComponentType<PanelProps<StepOfKind<K>>>
  /** Its own settings for what comes next, below the finders. */
  readonly Tool?: ComponentType
  /** The values of a step in the middle of the canvas, for hands without a pointer: Enter makes it, arrow keys move it. */
  readonly middle?: (canvas: Size) => object
  /** Ends what is drawn point by point. */
  readonly finish?: () => void
  /** Takes the last point back while drawing. */
  readonly takeBack?: () => void
  /** The wheel turned while Alt is held: −1 or 1. */
  readonly wheel?: (turn: number) => void
  /** True when its handles show where the pointer is. */
  readonly followsPointer?: boolean
  /** It goes over what is selected: where the next use would replace, it adds. */
  readonly adds?: true
}

/** What a step's card and handles need. Steps that menus make have no more than this: they are not used on the picture. */
export type StepPage<K extends FinderKind> = Pick<FinderPage<K>, 'kind' | 'name' | 'summary' | 'Panel'> &
  Partial<Pick<FinderPage<K>, 'id' | 'Handles'>>
