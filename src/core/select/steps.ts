/**
 * The fold: steps, first to last, over an empty matte. A finding step is found, grown, feathered and inverted, in that order, then
 * combined; a modifying step changes what came before. Every step's finding and every fold so far is remembered, so a change of
 * step k recomputes k and the fold after it, nothing before.
 */
import { canonicalJson } from '../fields/canonical'
import { combineInto, invertInto } from '../raster/coverage'
import { grow } from '../raster/grow'
import { emptyMatte, type Matte } from '../raster/picture'
import { type Context, type Found, type Scene } from './finder'
import { featherMatte } from './modifiers/feather'
import { finderOf, modifierOf } from './registry'
import { type FindingStep, isFinding, opOf, type Step } from '../steps/registry'

/** What takes longer to find is worth keeping beyond this run, ms. */
const COSTLY_MS = 300

/**
 * The matte of a list of steps; hidden steps do nothing. The result may be remembered, or its finder's own: treat it as read-only,
 * and copy it to keep it beyond the next fold.
 */
export function foldSteps(steps: readonly Step[], scene: Scene, context: Context): Matte {
  const quick = steps.map((step) => isQuick(step, scene, context)),
    keys = foldKeys(steps, scene, quick)
  let from = steps.length
  let matte: Matte | undefined
  while (from > 0 && !(matte = context.memory.get<Matte>(keys[from - 1]))) from--
  let empty = from === 0
  const last = steps.findLastIndex((step) => !step.hidden)
  matte ??= emptyMatte(scene)
  for (let i = from; i < steps.length; i++) {
    context.check(i / steps.length)
    const step = steps[i]
    if (step.hidden) continue
    const started = performance.now()
    let remembered = false,
      note: string | undefined
    if (isFinding(step)) {
      const op = opOf(step)
      const alone = empty && op === 'add' && i === last
      const found = findStep(step, scene, { ...context, draft: quick[i] }, alone)
      remembered = found.remembered
      note = found.note
      // Nothing is combined with it: handed on as it is, a copy to remember would take longer than finding it.
      if (alone && found.passing) {
        context.stepDone?.(i, step.kind, performance.now() - started, false)
        return found.matte
      }
      if (empty && op === 'add')
        matte = found.passing ? { ...found.matte, data: found.matte.data.slice() } : found.matte
      else {
        matte = { width: matte.width, height: matte.height, data: matte.data.slice() }
        combineInto(matte, found.matte, op)
      }
    } else {
      const modifier = modifierOf(step),
        looked = sceneFor(step, scene)
      note = modifier.note?.(matte, step)
      const began = performance.now()
      const { width, height, data } = modifier.modify(
        { width: matte.width, height: matte.height, data: matte.data.slice() },
        step,
        context,
        looked,
      )
      matte = { width, height, data, ...(note ? { note } : {}) } satisfies Found
      if (!context.draft && performance.now() - began > COSTLY_MS)
        context.costly?.({ key: keys[i], version: versionOf(steps.slice(0, i + 1)), matte })
    }
    empty = false
    context.memory.set(keys[i], matte, matte.data.byteLength)
    context.stepDone?.(i, step.kind, performance.now() - started, remembered, note)
  }
  return matte
}

/** What a step looks at: what it was made on, where that is known. */
export const sceneFor = (step: Step, scene: Scene): Scene =>
  (step.scene !== undefined && scene.at?.(step.scene, step.sceneLayer ?? '')) || scene

/** What one finding step covers by itself, before it is combined. Read-only; when `passing`, only valid until the next find. @param alone nothing else will be combined with it */
export function findStep(
  step: FindingStep,
  scene: Scene,
  context: Context,
  alone = false,
): { matte: Matte; remembered: boolean; passing: boolean; note?: string } {
  const key = findingKey(step, scene, context.draft)
  const known = context.memory.get<Found>(key)
  if (known) return { matte: known, remembered: true, passing: false, note: known.note }
  const began = performance.now(),
    found = finderOf(step).find(sceneFor(step, scene), step, context)
  const { width, height } = found
  const unchanged = step.grow === 0 && step.feather === 0
  if (unchanged && !step.invert && (found.passing === 'quick' || (found.passing === 'slow' && alone)))
    return { matte: found, remembered: false, passing: true }
  // What a finder hands over may be kept by it, or by the scene: it is never written into.
  const written = found.passing || step.feather > 0 || step.invert
  let matte: Matte =
    step.grow !== 0 ? grow(found, step.grow) : written ? { width, height, data: found.data.slice() } : found
  if (step.feather > 0) matte = featherMatte(matte, step.feather)
  if (step.invert) invertInto(matte)
  const kept: Found = { ...matte, note: found.note }
  context.memory.set(key, kept, matte.data.byteLength)
  if (!context.draft && performance.now() - began > COSTLY_MS)
    context.costly?.({ key, version: versionOf([step]), matte: kept })
  return { matte: kept, remembered: false, passing: false, note: found.note }
}

/** Which versions of their algorithms make these steps what they are. */
const versionOf = (steps: readonly Step[]): string =>
  [...new Set(steps.filter((step) => !step.hidden).map((step) => `${step.kind} ${versionOfKind(step)}`))].sort().join()
const versionOfKind = (step: Step): number => (isFinding(step) ? finderOf(step) : modifierOf(step)).version ?? 1

/** Under what a step's finding and all up to that step are remembered, and which versions make them now. */
export interface ResultKeys {
  readonly upToHere: { readonly key: string; readonly version: string }
  /** Absent for steps that find nothing of their own. */
  readonly finding?: { readonly key: string; readonly version: string }
}
export function resultKeys(steps: readonly Step[], scene: Scene): ResultKeys[] {
  const keys = foldKeys(steps, scene)
  return steps.map((step, i) => ({
    upToHere: { key: keys[i], version: versionOf(steps.slice(0, i + 1)) },
    ...(isFinding(step) && !step.hidden
      ? { finding: { key: findingKey(step, scene), version: versionOf([step]) } }
      : {}),
  }))
}

/** What there is to say of each step, as it was last made; undefined where there is nothing, or it is forgotten. */
export function stepNotes(steps: readonly Step[], scene: Scene, context: Context): (string | undefined)[] {
  const quick = steps.map((step) => isQuick(step, scene, context)),
    keys = foldKeys(steps, scene, quick)
  return steps.map(
    (step, i) => context.memory.get<Found>(isFinding(step) ? findingKey(step, scene, quick[i]) : keys[i])?.note,
  )
}

const texts = new WeakMap<Step, string>()
/** What of a step decides what it does, made once: steps never change. How it combines, its name and what it was made on are looked at elsewhere. */
function textOf(step: Step): string {
  let text = texts.get(step)
  if (text === undefined) {
    const { hidden, name, id, scene, sceneLayer, ...decides } = step
    void [hidden, name, id, scene, sceneLayer]
    if ('op' in decides) delete (decides as { op?: unknown }).op
    texts.set(step, (text = canonicalJson(decides)))
  }
  return text
}

/** Everything that decides what a finding step covers. Combining, name and id do not. */
function findingKey(step: FindingStep, outer: Scene, draft = false): string {
  const scene = sceneFor(step, outer)
  const looksAt = finderOf(step).looksAtPixels ? scene.identity(step.sample) : `${scene.width}×${scene.height}`
  return `step ${draft && finderOf(step).drafts ? 'draft ' : ''}${looksAt} ${textOf(step)}${finderOf(step).dependsOn?.(scene, step) ?? ''}`
}

/** Whether a draft answers a step quickly: it can, and the true answer is not remembered. */
const isQuick = (step: Step, scene: Scene, { memory, draft }: Context): boolean =>
  draft === true && isFinding(step) && !step.hidden && !!finderOf(step).drafts && !memory.get(findingKey(step, scene))

/** @param quick which steps are answered quickly */
function foldKeys(steps: readonly Step[], scene: Scene, quick: readonly boolean[] = []): string[] {
  let key = `fold ${scene.width}×${scene.height}`
  return steps.map((step, i) => {
    if (!step.hidden) {
      if (isFinding(step)) key += ` | ${step.op} ${findingKey(step, scene, quick[i])}`
      else {
        key += ` | ${textOf(step)}${modifierOf(step).looksAtPixels ? ` ${sceneFor(step, scene).identity('all')}` : ''}`
      }
    }
    return key
  })
}
