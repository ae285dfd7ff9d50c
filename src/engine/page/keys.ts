/** Records as texts that say all that decides what is made of them. */
import { type LayerMask } from '@/document/types'

const texts = new WeakMap<object, string>()
/** A record as text, made once: records never change. */
export function textOf(record: object): string {
  let text = texts.get(record)
  if (text === undefined) texts.set(record, (text = JSON.stringify(record)))
  return text
}
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
