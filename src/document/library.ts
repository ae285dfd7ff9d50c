/** The library: pictures that every project can take. */
import { type SkyPicture } from '@/core/match/skyPicture'

/** What they are for. */
export const LIBRARY_KINDS = ['sky', 'backdrop', 'mask', 'own'] as const
export type LibraryKind = (typeof LIBRARY_KINDS)[number]

export interface LibraryPicture {
  readonly asset: string
  readonly name: string
  /** Empty: in none. */
  readonly group: string
  readonly width: number
  readonly height: number
  readonly ppi: number | null
  readonly bytes: number
  /** When it was put in, or sent. */
  readonly added: string
  /** How many projects show it. */
  readonly projects: number
  /** False: it is listed because a project shows it. */
  readonly kept: boolean
  /** Of a sky, what its picture says; null as long as nobody has read it. */
  readonly reads: SkyPicture | null
}
/** Where a picture is used; the newest first. */
export interface PictureUses {
  readonly projects: readonly { readonly id: string; readonly name: string }[]
  readonly batches: readonly { readonly id: string; readonly name: string }[]
}
