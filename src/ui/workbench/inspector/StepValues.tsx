'use client'
/** The values of the open step. */
import { isFinding, type Step } from '@/core/steps/registry'
import { type RecipeHome } from '@/document/records'
import { pageOfStep } from '@/ui/finders/registry'
import { StepSlider } from '@/ui/finders/StepSlider'
import { modifierPage } from '@/ui/modifiers/registry'

export function StepValues({ step, home }: { step: Step; home: RecipeHome }) {
  if (!isFinding(step)) {
    const page = modifierPage(step.kind)
    return (
      <>
        {page?.values.map((value) => (
          <StepSlider
            key={value.field}
            step={step}
            home={home}
            {...value}
            usual={value.usual ?? (page.start[value.field] as number)}
          />
        ))}
        {page?.Panel && <page.Panel step={step as never} home={home} />}
        <p className="text-xs leading-relaxed text-[var(--muted)]">{page?.words}</p>
      </>
    )
  }
  const page = pageOfStep(step),
    of = { step, home, digits: 1, unit: 'px' }
  return (
    <>
      {page && <page.Panel step={step} home={home} />}
      <StepSlider {...of} field="feather" label="Feather" max={400} curve={2.4} />
      <StepSlider {...of} field="grow" label="Grow" min={-200} max={200} curve={2} />
    </>
  )
}
