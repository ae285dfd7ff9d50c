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
import { sideLight } from './sideLight'
import { tint } from './tint'
import { vibrance } from './vibrance'
import { vignette } from './vignette'
import { whiteBalance } from './whiteBalance'
import { type Field } from '../../fields/fields'
import { completed, isObject, RecordError } from '../../fields/record'

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
  sideLight,
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

/** Complete values from ones that may leave out defaults. Throws RecordError with the field and what it takes. */
export function parseAdjustment(input: unknown, path = 'adjustment'): AdjustmentRecord {
  const given = isObject(input) ? input : {},
    { kind } = given
  if (typeof kind !== 'string' || !Object.hasOwn(ADJUSTMENTS, kind))
    throw new RecordError(`${path}.kind: takes one of ${Object.keys(ADJUSTMENTS).join(', ')}.`)
  const fields = ADJUSTMENTS[kind as AdjustmentKind].fields as Record<string, Field<unknown>>
  return { kind, ...completed(fields, given, path, kind, 'kind') } as unknown as AdjustmentRecord
}
