/** Records as texts that say all that decides what is made of them. */
import { type StepOfKind } from '@/core/steps/registry'
import { type Layer, type LayerMask } from '@/document/records'

const texts = new WeakMap<object, string>()
/** A record as text, made once: records never change. */
export function textOf(record: object): string {
  let text = texts.get(record)
  if (text === undefined) texts.set(record, (text = JSON.stringify(record)))
  return text
}
const looks = new WeakMap<Layer, string>()
/** Everything that decides how a layer looks by itself. */
export function lookKey(layer: Layer): string {
  let key = looks.get(layer)
  if (key === undefined) {
    const { name, locked, ...rest } = layer
    void [name, locked]
    looks.set(layer, (key = JSON.stringify(rest)))
  }
  return key
}
/** What a step's chart shows: everything but the value that is chosen on it. */
export const chartKey = (step: StepOfKind<'similarColour' | 'palette' | 'limitColour'>): string =>
  JSON.stringify(
    step.kind === 'similarColour'
      ? [step.at, step.patch, step.metric, step.contiguous, step.sample]
      : [step.colours, chartSample(step)],
  )
/** The layers whose colours are counted. */
export const chartSample = (step: StepOfKind<'palette' | 'limitColour'>) =>
  step.kind === 'palette' ? step.sample : 'all'
const maskKeys = new WeakMap<LayerMask, string>()
/** Everything that decides a mask's levels. */
export function maskKey(mask: LayerMask): string {
  let key = maskKeys.get(mask)
  if (key === undefined) {
    const scene = typeof mask.scene === 'string' ? mask.scene : textOf(mask.scene)
    const { width, height } = mask.frame
    key = `${width}×${height} ${scene} ${mask.sceneLayer} ${mask.feather ?? 0} ${textOf(mask.saved)} ${textOf(mask.recipe)}`
    maskKeys.set(mask, key)
  }
  return key
}
