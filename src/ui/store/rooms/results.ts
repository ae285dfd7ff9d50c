/** What the engine answered. */
import { type Box } from '@/core/raster/content'
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'

export interface ResultsRoom {
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
  pixel: readonly [number, number, number, number] | null
}

export const initialResults: ResultsRoom = {
  result: null,
  notes: {},
  older: [],
  selecting: false,
  making: true,
  curves: {},
  histograms: {},
  progress: null,
  rarestHue: 265,
  pixel: null,
}
