/** What a project and its changes may hold: the one place page, server and command line take it from. */
import { LONGEST_NAME } from '@/core/fields/fields'
import { MOST_STEPS } from '@/core/formats/recipe'

/** A canvas of 150 megapixels takes 600 MB to show. */
export const LIMITS = {
  /** px */
  side: 40_000,
  pixels: 150e6,
  layers: 500,
  /** In each other. */
  groups: 20,
  steps: MOST_STEPS,
  /** Masks made on masked layers, in records of earlier versions. */
  nesting: 8,
  /** Pieces of paint in a layer. */
  items: 5000,
  scenes: 2000,
  /** Saved selections, paths, guides. */
  kept: 500,
  /** Characters (UTF-16 units). */
  name: LONGEST_NAME,
  label: LONGEST_NAME,
} as const

/** How wide a rim of an edge may take colours from deeper inside, px. */
export const WIDEST_RIM = 10
/** Of a picture file. */
export const PICTURE_BYTES = 160 * 1024 * 1024
/** Of one change as JSON, and of a batch of them, bytes. */
export const CHANGE_BYTES = 16 * 1024 * 1024,
  BATCH_BYTES = 2 * 1024 * 1024,
  BATCH_CHANGES = 100

/** A text as it may be kept: no NUL, no half of a pair of surrogates, not too long. */
export function keepable(text: string, longest: number = LIMITS.name): string {
  const clean = text.replace(/[\0\p{Surrogate}]/gu, '')
  return clean.length <= longest ? clean : clean.slice(0, longest).replace(/\p{Surrogate}$/u, '')
}
