/** Paint on a layer, piece by piece. */
import { type Fill } from '@/core/compose/fill'
import { type Affine, inverse } from '@/core/raster/affine'
import { type FindingStep, looksAtPixels, type Recipe, type Step } from '@/core/steps/registry'
import { type Edit } from './history'
import { areaOf } from './masks'
import { type Layer, type PaintItem } from './records'
import { unwrap } from './unwrap'
import { found } from './drafts'
import { withId } from './withId'

/** What is painted next: with what, rubbed out or laid on, and where it is allowed (steps of the canvas; none: everywhere). */
export interface Painting {
  readonly fill: Fill
  readonly erase: boolean
  readonly within: Recipe
}
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
/** Lays paint where the step finds (null: all of `within`), and nowhere outside `within`. A stroke that goes on as the ones before joins them in one item, so that they can be changed together. @param id for a new item */
export const paint =
  (layerId: string, id: string, { fill, erase, within }: Painting, step: FindingStep | null): Edit =>
  (project) => {
    const draft = found(project, layerId),
      layer = unwrap(draft) as unknown as Layer | undefined
    if (draft?.kind !== 'paint' || layer?.kind !== 'paint') return
    let toLayer: Affine
    try {
      toLayer = inverse(layer.placement)
    } catch {
      return
    }
    const last = layer.items.at(-1),
      lastStep = last?.area.recipe.steps.at(-1)
    if (
      step?.kind === 'paint' &&
      last &&
      lastStep?.kind === 'paint' &&
      same([last.fill, last.erase, last.toLayer], [fill, erase, toLayer]) &&
      same(last.area.recipe.steps.slice(0, -1), within.steps)
    ) {
      const strokes = (draft.items.at(-1)!.area.recipe.steps.at(-1) as Extract<FindingStep, { kind: 'paint' }>)
        .strokes as unknown as unknown[]
      strokes.push(...step.strokes)
      return
    }
    const own: Step = step
      ? within.steps.length
        ? { ...step, op: 'intersect' }
        : step
      : { kind: 'all', hidden: false }
    const steps: Step[] = step || !within.steps.length ? [...within.steps, own] : [...within.steps]
    const looks = steps.some((each) => each.kind === 'saved' || each.kind === 'layer' || looksAtPixels(each))
    const area = looks
      ? areaOf(project, { version: 1, steps }, layerId)
      : { recipe: { version: 1, steps }, frame: unwrap(project.canvas), scene: [], sceneLayer: layerId, saved: [] }
    draft.items.push({ id, fill, erase, strength: 1, toLayer: [...toLayer], area } as never)
  }
export const changePaint =
  (layerId: string, itemId: string, change: Partial<Omit<PaintItem, 'id'>>): Edit =>
  (project) => {
    const layer = found(project, layerId)
    const item = layer?.kind === 'paint' ? withId(layer.items, itemId) : undefined
    if (item) Object.assign(item, change)
  }
export const removePaint =
  (layerId: string, itemId: string): Edit =>
  (project) => {
    const layer = found(project, layerId)
    if (layer?.kind === 'paint') layer.items = layer.items.filter((item) => item.id !== itemId)
  }
