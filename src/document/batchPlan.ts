/** What a batch does with each of its pictures: steps that select, and how what is selected goes out. JSON; docs/recipe.md describes it. */
import { isHex } from '@/core/compose/fill'
import { flag, number, oneOf, optional, pixels, text } from '@/core/fields/fields'
import { completed, isObject, objectAt, RecordError, type RecordOfFields } from '@/core/fields/record'
import { parseRecipe } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { type Step } from '@/core/steps/registry'
import { FILE_FORMATS, FORMATS, keepsAlpha, USUAL_QUALITY } from './fileFormats'
import { LIMITS, WIDEST_RIM } from './limits'

export interface BatchPlan {
  readonly version: 1
  readonly steps: readonly Step[]
  /** The size of the picture the steps were made on: on others they are scaled. Absent: their coordinates stay. */
  readonly canvas?: Size
  readonly output: BatchOutput
}

/** How it goes out. */
export const BATCH_OUTPUT = {
  /** The picture cut out (or on a backdrop), or the matte itself. */
  what: oneOf(['cutout', 'matte'] as const, 'cutout'),
  /** How far colours of the old backdrop are taken out of soft pixels. */
  fringe: number(0, 1, 1),
  /** A rim so wide takes colours from deeper inside. */
  rim: pixels(0, WIDEST_RIM, 0),
  /** What lies behind: a colour "#rrggbb", or a picture that covers (a SHA-256 on the server, a file on the command line). Absent: nothing. */
  backdrop: optional(text(400)),
  /** Cut to what shows. */
  trim: flag(false),
  /** Of the longer side, where it should be smaller than it is. */
  longest: optional(number(1, LIMITS.side, undefined, 'px')),
  format: oneOf(FILE_FORMATS, 'png'),
  /** For formats that lose something. */
  quality: number(1, 100, USUAL_QUALITY),
}
export type BatchOutput = RecordOfFields<typeof BATCH_OUTPUT>

/** A plan, or a plain recipe, completed. Throws RecordError. */
export function parseBatchPlan(input: unknown): BatchPlan {
  const plan = objectAt(input, 'plan', 'a plan is an object { "version": 1, "steps": [...], "output": {...} }'),
    { canvas } = plan,
    { version, steps } = parseRecipe(plan)
  if (canvas !== undefined && !isSize(canvas))
    throw new RecordError('canvas: takes { "width", "height" }, whole numbers of px.')
  const output = parseOutput(plan.output ?? {})
  if (output.what === 'cutout' && output.backdrop === undefined && !keepsAlpha(output.format))
    throw new RecordError(
      `output.format: a cut-out keeps its transparency, which ${FORMATS[output.format].name} cannot; give a backdrop, or choose another.`,
    )
  return { version, steps, ...(canvas ? { canvas } : {}), output }
}

function parseOutput(input: unknown): BatchOutput {
  const given = Object.entries(objectAt(input, 'output', 'takes an object')).filter(([, value]) => value !== null),
    output = completed(BATCH_OUTPUT, Object.fromEntries(given), 'output', 'the output'),
    { backdrop } = output
  if (backdrop?.startsWith('#') && !isHex(backdrop))
    throw new RecordError(`output.backdrop: takes a colour as #rrggbb or a picture, not ${backdrop}.`)
  return output
}

const isSize = (value: unknown): value is Size =>
  isObject(value) &&
  Object.keys(value).length === 2 &&
  [value.width, value.height].every(
    (side) => Number.isInteger(side) && (side as number) >= 1 && (side as number) <= LIMITS.side,
  )
