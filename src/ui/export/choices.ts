/** What the editor chose last for exports: remembered in the browser, for all projects. */
import { create } from 'zustand'
import { FILE_FORMATS, type FileFormat, USUAL_QUALITY } from '@/document/fileFormats'

export const WHATS = ['composite', 'chosen', 'cutout', 'matte', 'outline', 'recipe', 'layers', 'project'] as const
export type What = (typeof WHATS)[number]

export interface Choices {
  readonly what: What
  /** Of pictures with nothing behind them, and of those with: a cut-out keeps its transparency. */
  readonly cutout: FileFormat
  readonly composite: FileFormat
  readonly quality: number
  readonly depth: 8 | 16
  /** px of the longer side; null: as it is. */
  readonly longest: number | null
  readonly exif: boolean
}
const USUAL: Choices = {
  what: 'composite',
  cutout: 'png',
  composite: 'jpeg',
  quality: USUAL_QUALITY,
  depth: 8,
  longest: null,
  exif: false,
}
const KEY = 'wily:export'

function remembered(): Choices {
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Choices>
    const isFormat = (v: unknown): v is FileFormat => FILE_FORMATS.includes(v as FileFormat)
    return {
      what: WHATS.includes(found.what as What) ? found.what! : USUAL.what,
      cutout: isFormat(found.cutout) ? found.cutout : USUAL.cutout,
      composite: isFormat(found.composite) ? found.composite : USUAL.composite,
      quality: Number(found.quality) >= 1 && Number(found.quality) <= 100 ? found.quality! : USUAL.quality,
      depth: found.depth === 16 ? 16 : 8,
      longest: Number(found.longest) >= 1 ? found.longest! : null,
      exif: found.exif === true,
    }
  } catch {
    return USUAL // a browser that remembers nothing
  }
}

export const useChoices = create<Choices>(remembered)
export function choose(some: Partial<Choices>): void {
  useChoices.setState(some)
  try {
    localStorage.setItem(KEY, JSON.stringify(useChoices.getState()))
  } catch {
    // it holds for this page
  }
}
