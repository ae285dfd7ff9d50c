/** The layers as a tree: who lies in which group, in what order, how deep. Lists are bottom first. */
import { canonicalJson } from '@/core/fields/canonical'
import { type Sample } from '@/core/steps/step'
import { isFinding, type Step } from '@/core/steps/registry'
import { LIMITS } from './limits'
import { type Area, type KeptScene, type Layer, type Project, type SceneRecord } from './records'
import { ancestorsOf, isShown } from './shown'
import { withId } from './withId'

export const childrenOf = (layers: readonly Layer[], parent: string | undefined): Layer[] =>
  layers.filter((layer) => layer.parent === parent)
/** The layer and everything in it. */
export function withDescendants(layers: readonly Layer[], id: string): Layer[] {
  const layer = withId(layers, id)
  return layer
    ? [
        layer,
        ...(layer.kind === 'group' ? childrenOf(layers, id).flatMap((child) => withDescendants(layers, child.id)) : []),
      ]
    : []
}
/** How many groups lie in each other from this layer on down; 0 where it is no group. */
export const depthWithin = (layers: readonly Layer[], id: string): number => {
  const layer = withId(layers, id)
  return layer?.kind === 'group'
    ? 1 + Math.max(0, ...childrenOf(layers, id).map((child) => depthWithin(layers, child.id)))
    : 0
}
/** Whether these layers could not lie in so many more groups than now: they would come to lie where the uppermost of them lies. */
export const tooDeep = (layers: readonly Layer[], ids: readonly string[], more: number): boolean => {
  const top = layers.findLast((layer) => ids.includes(layer.id))
  return (
    top !== undefined &&
    ancestorsOf(layers, top.id).length + more + Math.max(...ids.map((id) => depthWithin(layers, id))) > LIMITS.groups
  )
}
export interface Row {
  readonly layer: Layer
  readonly depth: number
}
/** As a list is shown: top first, groups before what lies in them. @param folded groups whose layers are not shown */
export function rowsOf(
  layers: readonly Layer[],
  folded: ReadonlySet<string> = new Set(),
  parent?: string,
  depth = 0,
): Row[] {
  return childrenOf(layers, parent)
    .reverse()
    .flatMap((layer) => [
      { layer, depth },
      ...(layer.kind === 'group' && !folded.has(layer.id) ? rowsOf(layers, folded, layer.id, depth + 1) : []),
    ])
}
/** The next layer below in the same group; undefined where there is none. */
export function belowOf(layers: readonly Layer[], id: string): Layer | undefined {
  const layer = withId(layers, id),
    siblings = layer ? childrenOf(layers, layer.parent) : []
  return siblings[siblings.findIndex((l) => l.id === id) - 1]
}
/** What a layer is clipped to, or would be: the next layer below it in its group that is not clipped itself; undefined where there is none, or it has no form of its own. */
export function clipBaseOf(layers: readonly Layer[], id: string): Layer | undefined {
  let base = belowOf(layers, id)
  while (base?.clipped) base = belowOf(layers, base.id)
  return base?.kind === 'adjust' ? undefined : base
}
/** What is clipped when a layer is: itself, and the adjustments between it and what it comes to be clipped to. Empty where there is nothing below it with a form of its own. */
export function clippedAlong(layers: readonly Layer[], id: string): Layer[] {
  const along = layers.filter((layer) => layer.id === id)
  for (let below = belowOf(layers, id); below; below = belowOf(layers, below.id))
    if (!below.clipped) {
      if (below.kind !== 'adjust') return along
      along.push(below)
    }
  return []
}
/** What becomes one picture when a layer is merged downwards, the lowest first: down to the next one with pixels; a layer that is not clipped takes what is clipped there along with what that is clipped to. Empty where there is none. */
export function mergedDown(layers: readonly Layer[], id: string): Layer[] {
  const layer = withId(layers, id),
    merged = layer ? [layer] : []
  for (let below = belowOf(layers, id); below; below = belowOf(layers, below.id)) {
    merged.unshift(below)
    if (below.kind !== 'adjust' && (!below.clipped || layer?.clipped)) return merged
  }
  return []
}
/** What a layer in its place works on: the layers below it in its group, and around the group as long as groups are passed through; only the one below when it is clipped. */
export function layersBelow(layers: readonly Layer[], id: string): Layer[] {
  const layer = withId(layers, id)
  if (!layer) return []
  const siblings = childrenOf(layers, layer.parent),
    place = siblings.findIndex((l) => l.id === id)
  let first = 0
  if (layer.clipped) for (first = place - 1; first > 0 && siblings[first].clipped;) first--
  const group = withId(layers, layer.parent)
  const around = group?.kind === 'group' && group.passThrough && !layer.clipped ? layersBelow(layers, group.id) : []
  return [
    ...around,
    ...siblings.slice(Math.max(0, first), place).flatMap((below) =>
      withDescendants(layers, below.id).map((each) => {
        if (each.id !== below.id) return each
        const { parent, ...rest } = each
        void parent
        return rest
      }),
    ),
  ]
}
/** The records of what an area's steps look at. */
export function sceneOfArea(area: Area, scenes: readonly KeptScene[]): SceneRecord {
  const kept = typeof area.scene === 'string' ? withId(scenes, area.scene) : undefined
  return {
    layers: typeof area.scene === 'string' ? (kept?.layers ?? []) : area.scene,
    active: area.sceneLayer,
    canvas: area.frame,
    saved: area.saved,
    scenes,
    linear: kept?.linear ?? false,
  }
}
export const sceneOfProject = (project: Project): SceneRecord => ({
  layers: project.layers,
  active: project.activeLayer,
  canvas: project.canvas,
  saved: project.saved,
  scenes: project.scenes ?? [],
  linear: project.linear ?? false,
})

/** Every area of these layers: masks and paint. */
export const areasOf = (layers: readonly Layer[]): Area[] =>
  layers.flatMap((layer) => [
    ...(layer.mask ? [layer.mask] : []),
    ...(layer.kind === 'paint' ? layer.items.map((item) => item.area) : []),
  ])

/** The steps of an area, and those of the saved selections they may name. */
const stepsOfArea = (area: Area): Step[] => [...area.recipe.steps, ...area.saved.flatMap((saved) => saved.recipe.steps)]
/** The names of the kept scenes that layers' masks, paint and steps look at; of steps without layers, theirs alone. */
export const sceneNames = (layers: readonly Layer[], steps: readonly Step[] = []): string[] =>
  [
    ...areasOf(layers).flatMap((area) => [area.scene, ...stepsOfArea(area).map((step) => step.scene)]),
    ...steps.map((step) => step.scene),
  ].filter((name) => typeof name === 'string')

/** The kept scenes that some layers and steps look at, and those that these name: what goes along with them to another thread. */
export function scenesNamed(
  { layers, scenes }: Pick<SceneRecord, 'layers' | 'scenes'>,
  steps: readonly Step[] = [],
): KeptScene[] {
  if (!scenes.length) return []
  const byId = new Map(scenes.map((scene) => [scene.id, scene])),
    found = new Set<KeptScene>(),
    open = sceneNames(layers, steps)
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    const kept = byId.get(name)
    if (!kept || found.has(kept)) continue
    found.add(kept)
    open.push(...sceneNames(kept.layers))
  }
  return [...found]
}

/** The layers that steps with this `sample` look at: all of them, or one with all that lies in it, unmasked and by itself. */
export const sampledLayers = (layers: readonly Layer[], active: string | null, sample: Sample): readonly Layer[] =>
  sample === 'layer' ? byItself(layers, active, true) : layers
/** A layer with all that lies in it, as if there were no others. @param plain without its mask */
export const byItself = (layers: readonly Layer[], id: string | null, plain: boolean): Layer[] =>
  withDescendants(layers, id ?? '').map((layer) => {
    const { parent, ...rest } = layer
    return layer.id === id
      ? {
          ...rest,
          visible: true,
          opacity: 1,
          blend: undefined,
          clipped: undefined,
          ...(plain ? { mask: null } : {}),
        }
      : { ...rest, parent }
  })

const looked = new WeakMap<readonly Layer[], string>()
/** What decides how layers look: their names do not, and hidden ones do not. */
export function looksOf(layers: readonly Layer[]): string {
  let text = looked.get(layers)
  if (text === undefined) {
    text = canonicalJson(
      layers
        .filter((layer) => isShown(layers, layer.id))
        .map(({ name, locked, ...rest }) => {
          void [name, locked]
          return rest
        }),
    )
    looked.set(layers, text)
  }
  return text
}

/** True when what a step was made on looks otherwise now, or is not there any more. */
export function lookedOtherwise({ layers, scenes, linear }: Project, step: Step): boolean {
  if (step.scene === undefined) return false
  const kept = withId(scenes, step.scene)
  if (!kept) return false
  const sample: Sample = isFinding(step) ? step.sample : 'all',
    layer = step.sceneLayer ?? null
  return (
    (kept.linear ?? false) !== (linear ?? false) ||
    looksOf(sampledLayers(kept.layers, layer, sample)) !== looksOf(sampledLayers(layers, layer, sample))
  )
}

export interface NamedPicture {
  readonly asset: string
  /** Absent where only the name is known. */ readonly width?: number
  readonly height?: number
}
/** Every picture that layers show, or that their steps look at. */
export function picturesOf(scene: Pick<SceneRecord, 'layers' | 'scenes'>, steps: readonly Step[] = []): NamedPicture[] {
  const found = new Map<string, NamedPicture>(),
    seen = new Set<unknown>()
  const note = (picture: NamedPicture) => {
    if (!found.has(picture.asset) || picture.width !== undefined) found.set(picture.asset, picture)
  }
  const inSteps = (list: readonly Step[]) => {
    for (const step of list) {
      if (step.kind === 'image' || step.kind === 'trimap') note({ asset: step.asset })
      const kept = withId(scene.scenes, step.scene)
      if (kept) inLayers(kept.layers)
    }
  }
  const inLayers = (layers: readonly Layer[]) => {
    if (seen.has(layers)) return
    seen.add(layers)
    for (const layer of layers)
      if (layer.kind === 'picture') note({ asset: layer.asset, width: layer.width, height: layer.height })
    for (const area of areasOf(layers)) {
      inSteps(stepsOfArea(area))
      inLayers(sceneOfArea(area, scene.scenes).layers)
    }
  }
  inLayers(scene.layers)
  inSteps(steps)
  return [...found.values()]
}
export const picturesOfProject = (project: Project): NamedPicture[] => {
  const inRecipes = [project.selection, ...project.saved.map((s) => s.recipe)].flatMap((recipe) => recipe.steps)
  return picturesOf(
    {
      layers: [...project.layers, ...(project.scenes ?? []).flatMap((scene) => scene.layers)],
      scenes: project.scenes ?? [],
    },
    inRecipes,
  )
}
