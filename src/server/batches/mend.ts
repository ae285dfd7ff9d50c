/** A picture of a batch as a project, to mend it by hand; and what was mended, back as a plan. */
import { parseStep } from '@/core/formats/recipe'
import { stepsOnCanvas } from '@/core/formats/scaleSteps'
import { type Step } from '@/core/steps/registry'
import { type BatchPlan } from '@/document/batchPlan'
import { projectOf } from '@/document/edits'
import { edited } from '@/document/history'
import { addLayer } from '@/document/layers'
import { fillLayer } from '@/document/layerRecords'
import { maskWith } from '@/document/masks'
import { type Picture, type Project } from '@/document/records'
import { type Hex } from '@/core/compose/fill'

/** The photo, masked by the plan's steps, over the plan's colour where it has one. */
export function projectOfPicture(plan: BatchPlan, picture: Picture, newId: () => string): Project {
  const photo = newId(),
    { fringe, rim, backdrop } = plan.output
  const steps = stepsOnCanvas(plan.steps, plan.canvas ?? picture, picture).map((step) => ({ ...step, id: newId() })),
    project = edited(projectOf(picture.name, picture, photo), (draft) =>
      maskWith(draft, photo, { version: 1, steps }, { fringe, rim }),
    )
  if (!backdrop?.startsWith('#')) return project
  return edited(
    project,
    addLayer(fillLayer(newId(), 'Backdrop', picture, { kind: 'colour', colour: backdrop as Hex }), photo),
  )
}

/** The same plan with the steps of the mask as it is now; all of the picture where the mask is gone. */
export function mendedPlan(plan: BatchPlan, { layers }: Project): BatchPlan {
  const mask = layers.find((layer) => layer.kind === 'picture' && layer.mask?.enabled)?.mask,
    { output } = plan
  if (!mask) return { ...plan, steps: [parseStep({ kind: 'all' })] }
  const steps: Step[] = mask.recipe.steps.map(({ scene, sceneLayer, ...step }) => {
    void [scene, sceneLayer]
    return step
  })
  if (mask.feather) steps.push(parseStep({ kind: 'feather', radius: mask.feather }))
  if (mask.invert) steps.push(parseStep({ kind: 'invert' }))
  return { ...plan, steps, canvas: mask.frame, output: { ...output, fringe: mask.fringe ?? 0, rim: mask.rim ?? 0 } }
}
