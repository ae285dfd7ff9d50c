/** What the pointer can do while composing. A new hand is its own file and one row in the registry. */
import { type ComponentType } from 'react'
import { type Affine } from '@/core/raster/affine'
import { type Project } from '@/document/records'
import { type Drag } from '@/ui/finders/finder'
import { type Hand } from '@/ui/store/rooms/tool'

export interface HandPress {
  readonly project: Project
  /** Canvas px. */ readonly point: readonly [number, number]
  /** CSS px for one canvas px. */ readonly scale: number
  readonly shift: boolean
  readonly alt: boolean
  readonly pressure?: number
}
export interface HandPage {
  readonly id: Hand
  readonly name: string
  readonly icon: ComponentType<{ size?: number; className?: string }>
  readonly hint: string
  readonly press: (press: HandPress) => Drag | null
  /** Over the picture. @param map from canvas px to CSS px */
  readonly Handles: ComponentType<{ project: Project; map: Affine; pointer: readonly [number, number] | null }>
  /** Its own settings. */
  readonly Panel?: ComponentType<{ project: Project }>
  /** True when its handles show where the pointer is. */
  readonly followsPointer?: boolean
}
