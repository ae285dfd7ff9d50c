/** Changes of layer masks. */
import { current, isDraft } from 'immer'
import { type Affine, compose, IDENTITY, inverse } from '@/core/raster/affine'
import { type Recipe } from '@/core/steps/registry'
import { found, type ProjectDraft } from './drafts'
import { type Edit } from './history'
import { scenesNamed } from './tree'
import { type Area, type Layer, type LayerMask, type Project, type SavedSelection } from './records'
import { savedNamed, unwrap } from './unwrap'

/** A name for what a text says: 53 bits of a hash. Source: the mixing steps of MurmurHash3 (Appleby), on two lanes. */
function nameOf(text: string): string {
  let a = 0xdeadbeef,
    b = 0x41c6ce57
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    a = Math.imul(a ^ c, 2654435761)
    b = Math.imul(b ^ c, 1597334677)
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909)
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909)
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36)
}

/** From so many kept scenes on, those that nothing looks at any more go when another comes. */
const MANY_SCENES = 64
/** Names by the list of layers itself, without and with linear light: a gesture asks at every move of the pointer. */
const sceneIds = [new WeakMap<object, string>(), new WeakMap<object, string>()]
/** A draft as it is now; what was not changed is the very object it was. */
const plain = <T>(value: T): T => (isDraft(value) ? (current(value as object) as T) : value)

/** Keeps layers, all as they are now where none are given, for steps that will look at them; a scene that is kept already is used again. Returns its id. */
export function keepScene(project: ProjectDraft, some?: readonly Layer[]): string {
  const layers = some ?? plain(project.layers),
    { linear } = project
  const names = sceneIds[linear ? 1 : 0]
  const id = names.get(layers) ?? `s${nameOf(JSON.stringify([layers, linear]))}`
  names.set(layers, id)
  project.scenes ??= []
  if (project.scenes.some((scene) => scene.id === id)) return id
  if (project.scenes.length >= MANY_SCENES) forgetScenes(project)
  project.scenes.push({ id, layers, ...(linear ? { linear } : {}) } as never)
  return id
}
function forgetScenes(project: ProjectDraft): void {
  const { layers, scenes, selection, saved } = plain(project) as unknown as Project
  const steps = [selection, ...saved.map((each) => each.recipe)].flatMap((recipe) => recipe.steps)
  const named = new Set(scenesNamed({ layers, scenes: scenes ?? [] }, steps).map((scene) => scene.id))
  project.scenes = project.scenes!.filter((scene) => named.has(scene.id))
}

/** The saved selections that steps name, and those that these name. */
function savedIn(recipe: Recipe, all: readonly SavedSelection[], found: SavedSelection[] = []): SavedSelection[] {
  for (const step of recipe.steps) {
    if (step.kind !== 'saved') continue
    const saved = savedNamed(all, step.selection)
    if (saved && !found.includes(saved)) {
      found.push(saved)
      savedIn(saved.recipe, all, found)
    }
  }
  return found
}

/** Steps of the canvas with what they look at now. */
export function areaOf(project: ProjectDraft, recipe: Recipe, layerId: string): Area {
  return {
    recipe,
    frame: unwrap(project.canvas),
    scene: keepScene(project),
    sceneLayer: layerId,
    saved: savedIn(recipe, unwrap(project.saved)),
  }
}

const undone = (placement: unknown): Affine => {
  try {
    return inverse(unwrap(placement) as Affine)
  } catch {
    return IDENTITY
  }
}

/** Gives a layer a mask of steps made on the canvas. */
export function maskWith(project: ProjectDraft, layerId: string, recipe: Recipe, more: Partial<LayerMask> = {}): void {
  const layer = found(project, layerId)
  if (layer)
    layer.mask = {
      ...areaOf(project, recipe, layerId),
      enabled: true,
      toLayer: [...undone(layer.placement)] as unknown as Affine,
      ...more,
    } as never
}
export const setMask =
  (layerId: string, recipe: Recipe, more: Partial<LayerMask> = {}): Edit =>
  (project) =>
    maskWith(project, layerId, recipe, more)
export const removeMask =
  (layerId: string): Edit =>
  (project) => {
    const layer = found(project, layerId)
    if (layer) layer.mask = null
  }
export type MaskChange = Partial<
  Pick<
    LayerMask,
    'enabled' | 'feather' | 'strength' | 'invert' | 'unlinked' | 'outsideShown' | 'fringe' | 'rim' | 'toLayer'
  >
>
export const changeMask =
  (layerId: string, change: MaskChange): Edit =>
  (project) => {
    const mask = found(project, layerId)?.mask
    if (mask) Object.assign(mask, change)
  }
/** What share of its frame a mask shows whose steps select this share (0-1). */
export const shownShare = (
  { invert, strength = 1 }: Pick<LayerMask, 'invert' | 'strength'>,
  selected: number,
): number => 1 - strength * (invert ? selected : 1 - selected)
export const switchMask = (layerId: string, enabled: boolean): Edit => changeMask(layerId, { enabled })
/** The other layer gets the same mask, where it lies on the canvas. */
export const copyMask =
  (from: string, to: string): Edit =>
  (project) => {
    const source = unwrap(found(project, from)) as unknown as Layer | undefined,
      target = found(project, to)
    if (source?.mask && target)
      target.mask = {
        ...source.mask,
        toLayer: [...compose(undone(target.placement), compose(source.placement, source.mask.toLayer))],
      } as never
  }
/** Moves a mask by a map of the canvas, apart from its layer. */
export const moveMask =
  (layerId: string, by: Affine): Edit =>
  (project) => {
    const layer = unwrap(found(project, layerId)) as unknown as Layer | undefined,
      mask = found(project, layerId)?.mask
    if (layer?.mask && mask)
      mask.toLayer = [
        ...compose(undone(layer.placement), compose(by, compose(layer.placement, layer.mask.toLayer))),
      ] as never
  }
