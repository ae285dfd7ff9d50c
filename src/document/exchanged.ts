/** What the page and the server tell each other about projects, pictures, exports and batches, once for both. */
import { type BatchPlan } from './batchPlan'
import { type PictureState } from './batchRows'
import { type FileFormat } from './fileFormats'
import { type Act } from './history'
import { type Project } from './records'

export interface ProjectSummary {
  readonly id: string
  readonly name: string
  readonly width: number
  readonly height: number
  /** When it was changed last, ISO 8601. */
  readonly changed: string
  readonly hasCover: boolean
}
/** Where a project stands: what is shown, and how often that was moved. */
export interface Standing {
  readonly head: string | null
  readonly revision: number
}
/** Acts of a project; `seq`: the number of the newest, counted from 1. */
export interface SomeActs extends Standing {
  readonly seq: number
  readonly acts: Act[]
}
/** A project as it is opened: its records, and the newest acts. Older ones are asked for afterwards. */
export interface OpenProject extends SomeActs {
  readonly id: string
  readonly initial: Project
  /** How many acts came before those. */
  readonly older: number
  readonly records: Project
}

/** A picture that the server keeps. */
export interface StoredPicture {
  /** SHA-256 of the file, by which it is kept. */
  readonly asset: string
  readonly width: number
  readonly height: number
  readonly ppi: number | null
}

/** What can be exported. */
export const EXPORTED = ['composite', 'cutout', 'merge', 'matte', 'outline', 'layers', 'project'] as const
export interface ExportRequest {
  readonly project: string
  /** The act whose result is exported: what the page shows, so nothing older is delivered. */
  readonly head: string | null
  readonly what: (typeof EXPORTED)[number]
  /** The file's, without what it ends in. */
  readonly name?: string
  readonly layer?: string
  /** Which are shown, where not all that are visible; or are merged. */
  readonly layers?: string[]
  readonly selected?: boolean
  /** px of the longer side, where it should be smaller than it is. */
  readonly longest?: number
  readonly format: FileFormat
  /** Bits a channel. */
  readonly depth?: 8 | 16
  /** What the photo says of itself goes along. */
  readonly exif?: boolean
  readonly quality: number
  /** What shows through where nothing is, for formats without alpha. */
  readonly background: string
}
export interface ExportState {
  readonly id: string
  readonly state: 'waiting' | 'running' | 'done' | 'failed'
  /** 0-1. */
  readonly progress: number
  readonly name: string
  readonly problem?: string
  readonly bytes?: number
  /** Layers that were merged, as a picture of the project's. */
  readonly picture?: StoredPicture
}

export interface BatchSummary {
  readonly id: string
  readonly name: string
  readonly state: 'draft' | 'running' | 'stopped'
  readonly created: string
  readonly counts: Readonly<Record<PictureState, number>>
}
export interface Batch extends BatchSummary {
  readonly plan: BatchPlan
}
export interface BatchPicture {
  readonly number: number
  readonly asset: string
  readonly name: string
  readonly width: number
  readonly height: number
  readonly state: PictureState
  readonly run: number
  /** 0-1. */
  readonly selected: number | null
  readonly doubt: number | null
  readonly note: string | null
  readonly problem: string | null
  readonly ms: number | null
  readonly bytes: number | null
  /** The project in which it is mended. */
  readonly project: string | null
}
