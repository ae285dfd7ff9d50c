/** Steps that were made on one canvas, as they lie on another: each field says how it grows and moves. */
import { type Scale } from '../fields/fields'
import { sameSize, type Size } from '../raster/picture'
import { type Step } from '../steps/registry'
import { fieldsOf } from './recipe'

export function stepsOnCanvas(steps: readonly Step[], from: Size, to: Size): readonly Step[] {
  if (sameSize(from, to)) return steps
  const by: Scale = { x: to.width / from.width, y: to.height / from.height }
  return scaledSteps(steps, by)
}
export const scaledSteps = (steps: readonly Step[], by: Scale): readonly Step[] =>
  steps.map((step) => scaledStep(step, by))

function scaledStep(step: Step, by: Scale): Step {
  const record = { ...step } as Record<string, unknown>
  for (const [name, field] of Object.entries(fieldsOf(step.kind) ?? {}))
    if (field.scaled && record[name] !== undefined) record[name] = field.scaled(record[name], by, step)
  return record as unknown as Step
}
