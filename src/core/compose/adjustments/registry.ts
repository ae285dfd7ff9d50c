/** Every adjustment and effect there is. A new one is its own file and one row here. */
import { type Adjustment } from './adjustment'
import { blackAndWhite } from './blackAndWhite'
import { brightnessContrast } from './brightnessContrast'
import { clarity } from './clarity'
import { curves } from './curves'
import { discBlur } from './discBlur'
import { exposure } from './exposure'
import { gaussianBlur } from './gaussianBlur'
import { grain } from './grain'
import { haze } from './haze'
import { hueSaturation } from './hueSaturation'
import { invert } from './invert'
import { levels } from './levels'
import { shadowsHighlights } from './shadowsHighlights'
import { reflection } from './reflection'
import { relight } from './relight'
import { sharpen } from './sharpen'
import { tint } from './tint'
import { vibrance } from './vibrance'
import { vignette } from './vignette'
import { whiteBalance } from './whiteBalance'
import { type Field } from '../../fields/fields'

export const ADJUSTMENTS = {
  exposure,
  brightnessContrast,
  levels,
  curves,
  whiteBalance,
  hueSaturation,
  shadowsHighlights,
  clarity,
  vibrance,
  invert,
  blackAndWhite,
  tint,
  gaussianBlur,
  discBlur,
  sharpen,
  grain,
  vignette,
  relight,
  haze,
  reflection,
} as const
export type AdjustmentKind = keyof typeof ADJUSTMENTS
type FieldsOf<A> = A extends Adjustment<string, infer P> ? P : never
type Simplify<T> = { [K in keyof T]: T[K] } & {}
/** An adjustment as a layer keeps it. */
export type AdjustmentRecord = {
  [K in AdjustmentKind]: Simplify<{ kind: K } & FieldsOf<(typeof ADJUSTMENTS)[K]>>
}[AdjustmentKind]
export type AdjustmentOf<K extends AdjustmentKind> = Extract<AdjustmentRecord, { kind: K }>

export const adjustmentOf = (record: AdjustmentRecord): Adjustment => ADJUSTMENTS[record.kind]

/** Complete values from ones that may leave out defaults. Throws RangeError with the field and what it takes. */
export function parseAdjustment(input: unknown, path = 'adjustment'): AdjustmentRecord {
  const given = (typeof input === 'object' && input !== null ? input : {}) as Record<string, unknown>
  if (typeof given.kind !== 'string' || !Object.hasOwn(ADJUSTMENTS, given.kind))
    throw new RangeError(`${path}.kind: takes one of ${Object.keys(ADJUSTMENTS).join(', ')}.`)
  const fields = ADJUSTMENTS[given.kind as AdjustmentKind].fields as Record<string, Field<unknown>>
  const unknown = Object.keys(given).find((name) => name !== 'kind' && !Object.hasOwn(fields, name))
  if (unknown)
    throw new RangeError(
      `${path}.${unknown}: ${given.kind} has no such value; it takes ${Object.keys(fields).join(', ') || 'none'}.`,
    )
  const record: Record<string, unknown> = { kind: given.kind }
  for (const [name, field] of Object.entries(fields)) {
    const value = given[name] === undefined ? field.fallback : given[name]
    if (!field.accepts(value)) throw new RangeError(`${path}.${name}: takes ${field.takes}.`)
    record[name] = value !== undefined && field.reads ? field.reads(value) : value
  }
  return record as unknown as AdjustmentRecord
}
