/** Which layers are shown: known before the page is made, so nothing here knows what kinds of steps there are. */
import { type Layer } from './records'
import { withId } from './withId'

/** The groups around a layer, innermost first. */
export function ancestorsOf(layers: readonly Layer[], id: string): Layer[] {
  const out: Layer[] = []
  for (let parent = withId(layers, id)?.parent; parent;) {
    const group: Layer | undefined = withId(layers, parent)
    if (!group || out.includes(group)) break
    out.push(group)
    parent = group.parent
  }
  return out
}
/** True when the layer and all groups around it are shown. */
export const isShown = (layers: readonly Layer[], id: string): boolean =>
  layers.some((l) => l.id === id && l.visible) && ancestorsOf(layers, id).every((group) => group.visible)

/** The pictures that layers show, each once. */
export const shownPictures = (layers: readonly Layer[]): string[] => [
  ...new Set(layers.flatMap((layer) => (layer.kind === 'picture' && isShown(layers, layer.id) ? [layer.asset] : []))),
]
