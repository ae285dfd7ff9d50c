/** Every kind of step there is. A new one is its own file and one row here. */
import { type CommonFields, type Finder, type FindingFields, type Modifier, type Sample } from './finder'
import { feather } from './modifiers/feather'
import { grow } from './modifiers/grow'
import { invert } from './modifiers/invert'
import { rectangle } from './rectangle'
import { similarColour } from './similarColour'

export const FINDERS = { rectangle, similarColour } as const
export const MODIFIERS = { invert, grow, feather } as const

type FieldsOf<F> = F extends Finder<string, infer P> ? P : F extends Modifier<string, infer P> ? P : never
type Simplify<T> = { [K in keyof T]: T[K] } & {}

export type FindingStep = { [K in keyof typeof FINDERS]: Simplify<{ kind: K } & FieldsOf<(typeof FINDERS)[K]> & FindingFields & CommonFields & { sample: Sample }> }[keyof typeof FINDERS]
export type ModifyingStep = { [K in keyof typeof MODIFIERS]: Simplify<{ kind: K } & FieldsOf<(typeof MODIFIERS)[K]> & CommonFields> }[keyof typeof MODIFIERS]
export type Step = FindingStep | ModifyingStep
export type StepKind = Step['kind']
export type StepOfKind<K extends StepKind> = Extract<Step, { kind: K }>

export interface Recipe { readonly version: 1; readonly steps: readonly Step[] }
export const EMPTY_RECIPE: Recipe = { version: 1, steps: [] }

export const isFinding = (step: Step): step is FindingStep => step.kind in FINDERS
export const finderOf = (step: FindingStep): Finder => FINDERS[step.kind] as unknown as Finder
export const modifierOf = (step: ModifyingStep): Modifier => MODIFIERS[step.kind] as unknown as Modifier
