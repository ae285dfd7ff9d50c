/**
 * Recipe JSON: checked, completed with defaults, migrated. The contract is docs/recipe.md.
 * Everything wrong is refused with the path of the field and what it takes.
 */
import { COMBINE_OPS } from '../raster/coverage'
import { type Field, flag, length, LONGEST_NAME, oneOf, optional, signedLength, text } from '../fields/fields'
import { completed, isObject, objectAt, RecordError, shown } from '../fields/record'
import { FINDERS, MODIFIERS, type Recipe, type Step } from '../steps/registry'
import { type FindingKind, type ModifyingKind } from '../steps/step'

/** More steps than this are a mistake or an attack, not a selection. */
export const MOST_STEPS = 1000

const COMMON = {
  hidden: flag(false),
  name: optional(text(LONGEST_NAME)),
  id: optional(text(64)),
  scene: optional(text(64)),
  sceneLayer: optional(text(64)),
}
const FINDING = {
  op: oneOf(COMBINE_OPS, 'add'),
  feather: length(0),
  grow: signedLength(0),
  invert: flag(false),
}
const LOOKING = { sample: oneOf(['layer', 'all'] as const, 'all') }

/** All fields a kind of step takes, with their defaults; undefined for a kind that does not exist. */
export function fieldsOf(kind: string): Record<string, Field<unknown>> | undefined {
  if (Object.hasOwn(FINDERS, kind)) {
    const finder = FINDERS[kind as keyof typeof FINDERS]
    return { ...finder.fields, ...FINDING, ...(finder.looksAtPixels ? LOOKING : {}), ...COMMON }
  }
  if (Object.hasOwn(MODIFIERS, kind)) return { ...MODIFIERS[kind as keyof typeof MODIFIERS].fields, ...COMMON }
  return undefined
}

/** What was found right once is not looked through again as long as it cannot change. */
const checked = new WeakMap<object, unknown>()
export function checkOnce<T>(input: unknown, check: () => T): T {
  if (typeof input !== 'object' || input === null || !Object.isFrozen(input)) return check()
  const known = checked.get(input)
  if (known !== undefined) return known as T
  const found = check()
  checked.set(input, found)
  return found
}

/** A complete step from one that may leave out defaults. Throws RecordError. */
export const parseStep = (input: unknown, path = 'step'): Step => checkOnce(input, () => stepOf(ofToday(input), path))

const KINDS: Readonly<Record<string, FindingKind | ModifyingKind>> = { ...FINDERS, ...MODIFIERS }
/** What kinds of steps were called in earlier versions. */
const EARLIER_KINDS: Readonly<Record<string, string>> = { border: 'contour' }

/** A step of an earlier version in today's words; values that are no numbers are left for the check to refuse. */
function ofToday(given: unknown): unknown {
  if (!isObject(given) || typeof given.kind !== 'string') return given
  const kind = Object.hasOwn(EARLIER_KINDS, given.kind) ? EARLIER_KINDS[given.kind] : given.kind,
    input = kind === given.kind ? given : { ...given, kind },
    earlier = Object.hasOwn(KINDS, kind) ? KINDS[kind].earlier : undefined
  if (!earlier || !Object.keys(earlier).some((name) => Number.isFinite(input[name]))) return input
  const step: Record<string, unknown> = {}
  for (const [name, value] of Object.entries(input))
    if (Object.hasOwn(earlier, name) && Number.isFinite(value)) Object.assign(step, earlier[name](value as number))
    else if (!(name in step)) step[name] = value
  return step
}
function stepOf(given: unknown, path: string): Step {
  const input = objectAt(given, path, 'a step is an object with a kind'),
    kind = input.kind,
    fields = typeof kind === 'string' ? fieldsOf(kind) : undefined
  if (!fields)
    throw new RecordError(
      `${path}.kind: ${shown(kind)} is not a kind of step; the kinds are ${[...Object.keys(FINDERS), ...Object.keys(MODIFIERS)].join(', ')}.`,
    )
  return { kind, ...completed(fields, input, path, kind as string, 'kind') } as unknown as Step
}

/** Throws RecordError. */
export function parseRecipe(input: unknown, path = ''): Recipe {
  const at = (name: string) => (path ? `${path}.${name}` : name)
  const { version, steps } = objectAt(input, path || 'recipe', 'a recipe is an object { "version": 1, "steps": [...] }')
  if (version !== 1) throw new RecordError(`${at('version')}: takes 1, not ${shown(version)}.`)
  if (!Array.isArray(steps)) throw new RecordError(`${at('steps')}: takes a list of steps, not ${shown(steps)}.`)
  if (steps.length > MOST_STEPS)
    throw new RecordError(`${at('steps')}: takes at most ${MOST_STEPS} steps, not ${steps.length}.`)
  return { version: 1, steps: steps.map((step, i) => parseStep(step, at(`steps[${i}]`))) }
}
