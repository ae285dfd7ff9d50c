/** What a batch does with each of its pictures: steps that select, and how what is selected goes out. JSON; docs/recipe.md describes it. */
import { flag, number, oneOf, optional, pixels, text } from '@/core/fields/fields'
import { parseRecipe, RecipeError } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { type Step } from '@/core/steps/registry'
import { FILE_FORMATS, type FileFormat, FORMATS, keepsAlpha, USUAL_QUALITY } from './fileFormats'
import { LIMITS } from './limits'

export interface BatchOutput {
  /** The picture cut out (or on a backdrop), or the matte itself. */
  readonly what: 'cutout' | 'matte'
  /** How far colours of the old backdrop are taken out of soft pixels, 0-1. */
  readonly fringe: number
  /** px, 0-10: a rim so wide takes colours from deeper inside. */
  readonly rim: number
  /** What lies behind: a colour "#rrggbb", or a picture that covers (a SHA-256 on the server, a file on the command line). Absent: nothing. */
  readonly backdrop?: string
  /** Cut to what shows. */
  readonly trim: boolean
  /** px of the longer side, where it should be smaller than it is. */
  readonly longest?: number
  readonly format: FileFormat
  /** 1-100, for formats that lose something. */
  readonly quality: number
}
export interface BatchPlan {
  readonly version: 1
  readonly steps: readonly Step[]
  /** The size of the picture the steps were made on: on others they are scaled. Absent: their coordinates stay. */
  readonly canvas?: Size
  readonly output: BatchOutput
}

/** What each field of how it goes out takes. */
export const BATCH_OUTPUT = {
  what: oneOf(['cutout', 'matte'] as const, 'cutout'),
  fringe: number(0, 1, 1),
  rim: pixels(0, 10, 0),
  backdrop: optional(text(400)),
  trim: flag(false),
  longest: optional(number(1, LIMITS.side, undefined, 'px')),
  format: oneOf(FILE_FORMATS, 'png'),
  quality: number(1, 100, USUAL_QUALITY),
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** A plan, or a plain recipe, completed. Throws RecipeError. */
export function parseBatchPlan(input: unknown): BatchPlan {
  if (!isObject(input))
    throw new RecipeError('plan: a plan is an object { "version": 1, "steps": [...], "output": {...} }.')
  const { version, steps } = parseRecipe(input)
  if (input.canvas !== undefined && !isSize(input.canvas))
    throw new RecipeError('canvas: takes { "width", "height" }, whole numbers of px.')
  const output = parseOutput(input.output ?? {})
  if (output.what === 'cutout' && output.backdrop === undefined && !keepsAlpha(output.format))
    throw new RecipeError(
      `output.format: a cut-out keeps its transparency, which ${FORMATS[output.format].name} cannot; give a backdrop, or choose another.`,
    )
  return { version, steps, ...(input.canvas ? { canvas: input.canvas } : {}), output }
}

function parseOutput(input: unknown): BatchOutput {
  if (!isObject(input)) throw new RecipeError('output: takes an object.')
  for (const name of Object.keys(input))
    if (!Object.hasOwn(BATCH_OUTPUT, name))
      throw new RecipeError(
        `output.${name}: there is no such field; there are ${Object.keys(BATCH_OUTPUT).join(', ')}.`,
      )
  const output: Record<string, unknown> = {}
  for (const [name, field] of Object.entries(BATCH_OUTPUT)) {
    const value = input[name] ?? undefined
    if (value === undefined) {
      if (field.fallback !== undefined) output[name] = field.fallback
    } else if (field.accepts(value)) output[name] = value
    else throw new RecipeError(`output.${name}: takes ${field.takes}, not ${JSON.stringify(value)}.`)
  }
  if (
    typeof output.backdrop === 'string' &&
    output.backdrop.startsWith('#') &&
    !/^#[0-9a-f]{6}$/i.test(output.backdrop)
  )
    throw new RecipeError(`output.backdrop: takes a colour as #rrggbb or a picture, not ${output.backdrop}.`)
  return output as unknown as BatchOutput
}

const isSize = (value: unknown): value is Size =>
  isObject(value) &&
  Object.keys(value).length === 2 &&
  [value.width, value.height].every(
    (side) => Number.isInteger(side) && (side as number) >= 1 && (side as number) <= LIMITS.side,
  )
