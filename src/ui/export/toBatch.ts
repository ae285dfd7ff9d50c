/** The steps worked on as a plan for many pictures. */
import { type Step } from '@/core/steps/registry'
import { type BatchPlan, parseBatchPlan } from '@/document/batchPlan'
import { layerById } from '@/document/edits'
import { belowOf } from '@/document/tree'
import { type Layer, type Project } from '@/document/records'

/** Steps without what ties them to this project. Throws with a sentence where they cannot be without it. */
export function stepsAlone(steps: readonly Step[]): Step[] {
  const tied = steps.find(({ kind, hidden }) => !hidden && (kind === 'saved' || kind === 'layer'))
  if (tied)
    throw new Error('A step names a saved selection or a layer of this project, which other pictures do not have.')
  return steps.map(({ id, scene, sceneLayer, ...step }) => {
    void [id, scene, sceneLayer]
    return step
  })
}

/** Those of the active layer's mask, or of the selection; what lies right behind it becomes the backdrop. Throws with a sentence. */
export function planOf(project: Project): BatchPlan {
  const layer = layerById(project, project.activeLayer),
    mask = layer?.mask ?? null,
    steps = mask ? mask.recipe.steps : project.selection.steps
  if (!steps.length) throw new Error('There are no steps yet: select something first.')
  return parseBatchPlan({
    version: 1,
    steps: stepsAlone(steps),
    canvas: mask ? mask.frame : project.canvas,
    output: { fringe: mask?.fringe, rim: mask?.rim, ...backdropOf(layer && belowOf(project.layers, layer.id)) },
  })
}
function backdropOf(below: Layer | undefined): { backdrop?: string } {
  if (!below?.visible || below.mask) return {}
  if (below.kind === 'picture') return { backdrop: below.asset }
  if (below.kind === 'fill' && below.fill.kind === 'colour') return { backdrop: below.fill.colour }
  return {}
}
