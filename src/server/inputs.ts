/** What route handlers take, checked by class-validator. Records inside are checked by document/validate. */
import 'reflect-metadata'
import { plainToInstance, Type } from 'class-transformer'
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
  validate,
} from 'class-validator'
import { Problem } from './problems'

export class PatchInput {
  @IsIn(['add', 'remove', 'replace']) op!: 'add' | 'remove' | 'replace'
  @IsArray() @ArrayMaxSize(40) path!: (string | number)[]
  @IsOptional() value?: unknown
}

export class ActInput {
  @IsUUID() id!: string
  @ValidateIf((_, value) => value !== null) @IsUUID() parent!: string | null
  @IsString() @Length(1, 200) label!: string
  @IsArray() @ArrayMaxSize(5000) @ValidateNested({ each: true }) @Type(() => PatchInput) forward!: PatchInput[]
  @IsArray() @ArrayMaxSize(5000) @ValidateNested({ each: true }) @Type(() => PatchInput) inverse!: PatchInput[]
  @IsISO8601() at!: string
}

export class NewProjectInput {
  @IsUUID() id!: string
  @IsObject() records!: object
}

export class ActsInput {
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => ActInput) acts!: ActInput[]
  /** The act that is shown now; null for the start. */
  @ValidateIf((_, value) => value !== null) @IsUUID() head!: string | null
}

export class ExportInput {
  @IsUUID() project!: string
  /** The act whose result is exported: what the page shows, so nothing older is delivered. */
  @ValidateIf((_, value) => value !== null) @IsUUID() head!: string | null
  @IsIn(['composite', 'cutout', 'merge']) what!: 'composite' | 'cutout' | 'merge'
  @IsOptional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) layers?: string[]
  @IsOptional() @IsBoolean() selected?: boolean
  @IsOptional() @IsString() @Length(1, 64) layer?: string
  @IsIn(['jpeg', 'png', 'webp']) format!: 'jpeg' | 'png' | 'webp'
  /** px of the longer side, where it should be smaller than it is. */
  @IsOptional() @IsInt() @Min(1) @Max(40_000) longest?: number
  @IsInt() @Min(1) @Max(100) quality!: number
  /** What shows through where nothing is, for formats without alpha. */
  @Matches(/^#[0-9a-f]{6}$/i) background!: string
}

export class MaskPictureInput {
  @Matches(/^[0-9a-f]{64}$/) asset!: string
  @IsString() @Length(1, 200) name!: string
}

/** Throws Problem 422 with the first thing wrong. */
export async function checkInput<T extends object>(type: new () => T, json: unknown): Promise<T> {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new Problem(422, 'The request takes a JSON object.')
  const input = plainToInstance(type, json)
  const [first] = await validate(input, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true })
  if (!first) return input
  let error = first,
    path = first.property
  while (error.children?.length) {
    error = error.children[0]
    path += `.${error.property}`
  }
  throw new Problem(422, `${path}: ${Object.values(error.constraints ?? { wrong: 'is not valid' })[0]}.`)
}
