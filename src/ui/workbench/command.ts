/** What a command is, and the words that several of them share. */
import { type ViewMode } from '@/engine/page/protocol'
import { type Stage } from '@/ui/store/rooms/view'
import { type Viewer } from '@/ui/canvas/viewer'

export interface Command {
  readonly id: string
  readonly name: string
  /** As written: "Ctrl+Z", "Shift+ArrowLeft", "i". Ctrl stands for Cmd on a Mac. */
  readonly keys?: readonly string[]
  readonly section: 'Project' | 'View' | 'Stages' | 'Finders' | 'Selection' | 'Layers'
  readonly run: (viewer: Viewer) => void
  /** Of a command that lasts as long as its key is held: what letting go does. */
  readonly release?: () => void
}

export const STAGES: readonly (readonly [Stage, string])[] = [
  ['gather', 'Gather'],
  ['select', 'Select'],
  ['edge', 'Edge'],
  ['compose', 'Compose'],
  ['match', 'Match'],
  ['export', 'Export'],
]
export const VIEWS: readonly (readonly [ViewMode, string])[] = [
  ['ants', 'Ants'],
  ['tint', 'Tint'],
  ['cutout', 'Cutout'],
  ['matte', 'Matte'],
  ['dimmed', 'Outside dimmed'],
  ['plain', 'Plain'],
]
