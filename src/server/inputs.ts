/** What route handlers take, checked by class-validator. Records inside are checked by document/validate. */
import 'reflect-metadata'
import { plainToInstance, Type } from 'class-transformer'
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  validate,
  ValidateBy,
  ValidateIf,
  ValidateNested,
} from 'class-validator'
import { isText } from '@/core/fields/fields'
import { isObject } from '@/core/fields/record'
import { type Diff, isDiff } from '@/document/diff'
import { EXPORTED, type ExportRequest } from '@/document/exchanged'
import { FILE_FORMATS, type FileFormat } from '@/document/fileFormats'
import { LIBRARY_KINDS, type LibraryKind } from '@/document/library'
import { BATCH_CHANGES, LIMITS } from '@/document/limits'
import { Problem } from './problems'

/** A text that can be kept. */
const IsKeepable = (longest: number) =>
  ValidateBy({
    name: 'isKeepable',
    validator: {
      validate: (value) => isText(value, longest) && value.length > 0,
      defaultMessage: () => `takes a text of 1 to ${longest} characters, without NUL or half surrogate pairs`,
    },
  })
/** A UUID, or null. */
const IsUUIDOrNull = () => (target: object, property: string) => {
  ValidateIf((_, value) => value !== null)(target, property)
  IsUUID()(target, property)
}

/** An act without its changes: those are looked at by themselves, uncopied. */
export class ActHead {
  @IsUUID() id!: string
  @IsUUIDOrNull() parent!: string | null
  @IsKeepable(LIMITS.label) label!: string
  @Matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d{1,6})?Z$/, {
    message: 'takes a time as 2026-11-27T08:00:00.000Z',
  })
  at!: string
}

/** A new project without its records: those are looked at by document/validate, uncopied. */
export class NewProjectHead {
  @IsUUID() id!: string
}

/** What comes along with acts. */
export class ActsHead {
  /** The act that is shown now; null for the start. */
  @IsUUIDOrNull() head!: string | null
  /** The project's revision that the sender knows: the head moves only where it is still the same. */
  @IsInt() @Min(0) revision!: number
  /** Names this sending: one that arrives again, or late, moves nothing. */
  @IsUUID() sending!: string
}
export type ActInput = ActHead & { readonly forward: Diff; readonly inverse: Diff }
export type ActsInput = ActsHead & { readonly acts: readonly ActInput[] }

/** Kinds are in exports/kinds.ts. */
export class ExportInput implements ExportRequest {
  @IsUUID() project!: string
  @IsUUIDOrNull() head!: string | null
  @IsIn(EXPORTED) what!: (typeof EXPORTED)[number]
  @IsOptional() @IsKeepable(LIMITS.name) name?: string
  @IsOptional() @IsArray() @ArrayMaxSize(LIMITS.layers) @IsString({ each: true }) layers?: string[]
  @IsOptional() @IsBoolean() selected?: boolean
  @IsOptional() @IsString() @Length(1, 64) layer?: string
  @IsIn(FILE_FORMATS) format!: FileFormat
  @IsOptional() @IsIn([8, 16]) depth?: 8 | 16
  @IsOptional() @IsBoolean() exif?: boolean
  @IsOptional() @IsInt() @Min(1) @Max(LIMITS.side) longest?: number
  @IsInt() @Min(1) @Max(100) quality!: number
  @Matches(/^#[0-9a-f]{6}$/i) background!: string
}

/** A text that can be kept, or none. */
const IsKeepableOrEmpty = (longest: number) =>
  ValidateBy({
    name: 'isKeepableOrEmpty',
    validator: {
      validate: (value) => isText(value, longest),
      defaultMessage: () => `takes a text of up to ${longest} characters, without NUL or half surrogate pairs`,
    },
  })

/** What may change of a picture in the library. */
export class LibraryChangeInput {
  @IsOptional() @IsKeepable(LIMITS.name) name?: string
  @IsOptional() @IsKeepableOrEmpty(LIMITS.name) group?: string
  /** Of a sky; looked at by parseSkyPicture. */
  @IsOptional() @IsObject() reads?: object
}
export class LibraryInput extends LibraryChangeInput {
  @IsIn(LIBRARY_KINDS) kind!: LibraryKind
  @Matches(/^[0-9a-f]{64}$/) asset!: string
}
export class LibraryGroupInput {
  @IsIn(LIBRARY_KINDS) kind!: LibraryKind
  @IsKeepable(LIMITS.name) group!: string
  /** Its new name; empty: its pictures are in no group. */
  @IsKeepableOrEmpty(LIMITS.name) name!: string
}

export class BatchInput {
  @IsUUID() id!: string
  @IsKeepable(LIMITS.name) name!: string
  /** Looked at by parseBatchPlan. */
  @IsObject() plan!: object
}
export class BatchChangeInput {
  @IsOptional() @IsKeepable(LIMITS.name) name?: string
  @IsOptional() @IsObject() plan?: object
}
export class BatchRunInput {
  @IsIn(['try', 'start', 'again', 'stop']) what!: 'try' | 'start' | 'again' | 'stop'
  /** Of pictures; absent: all that failed. */
  @IsOptional() @IsArray() @IsInt({ each: true }) numbers?: number[]
}
class BatchPictureInput {
  @Matches(/^[0-9a-f]{64}$/) asset!: string
  @IsKeepable(LIMITS.name) name!: string
}
export class BatchPicturesInput {
  @IsArray() @ValidateNested({ each: true }) @Type(() => BatchPictureInput) pictures!: BatchPictureInput[]
}

/** More entries than this in a list of a request are a mistake or an attack: refused before anything is made of them. */
const MOST_ENTRIES = LIMITS.layers

/** Throws Problem 422 with the first thing wrong. */
export async function checkInput<T extends object>(type: new () => T, json: unknown, path = ''): Promise<T> {
  if (!isObject(json)) throw new Problem(422, `${path || 'The request'} takes a JSON object.`)
  const long = Object.keys(json).find((name) => Array.isArray(json[name]) && json[name].length > MOST_ENTRIES)
  if (long) throw new Problem(422, `${path}${long}: takes up to ${MOST_ENTRIES} entries.`)
  let input: T
  try {
    input = plainToInstance(type, json)
  } catch {
    throw new Problem(422, `${path || 'The request'} holds what it does not take.`) // objects that pose as something else
  }
  const [first] = await validate(input, {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
    stopAtFirstError: true,
  })
  if (!first) return input
  const said = Object.values(first.constraints ?? { wrong: 'is not valid' })[0]
  throw new Problem(422, `${path}${first.property}: ${said.replace(new RegExp(`^${first.property} `), '')}.`)
}

/** Throws Problem 422. */
export async function checkNewProject(json: unknown): Promise<NewProjectHead & { readonly records: unknown }> {
  if (!isObject(json)) throw new Problem(422, 'The request takes a JSON object.')
  const { records, ...rest } = json
  return { ...(await checkInput(NewProjectHead, rest)), records }
}

/** Acts of a request: as many as are sent at once, each looked at before the next. Throws Problem 422. */
export async function checkActs(json: unknown): Promise<ActsInput> {
  if (!isObject(json) || !Array.isArray(json.acts)) throw new Problem(422, 'acts: takes a list.')
  if (json.acts.length > BATCH_CHANGES) throw new Problem(422, `acts: takes up to ${BATCH_CHANGES} at a time.`)
  const { acts, ...rest } = json,
    head = await checkInput(ActsHead, rest),
    checked: ActInput[] = []
  for (const [i, each] of (acts as unknown[]).entries()) {
    if (!isObject(each)) throw new Problem(422, `acts[${i}]: takes an act.`)
    const { forward, inverse, ...own } = each
    for (const [name, change] of Object.entries({ forward, inverse }))
      if (!isDiff(change)) throw new Problem(422, `acts[${i}].${name}: takes a change.`)
    checked.push({
      ...(await checkInput(ActHead, own, `acts[${i}].`)),
      forward: forward as Diff,
      inverse: inverse as Diff,
    })
  }
  return { ...head, acts: checked }
}
