'use client'
/** The values of the open step. */
import { isFinding, type Step } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { pageOfStep } from '@/ui/finders/registry'
import { modifierPage } from '@/ui/modifiers/registry'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'

export function StepValues({ step, home }: { step: Step; home: RecipeHome }) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  const slider = (
    label: string,
    name: string,
    value: number,
    min: number,
    max: number,
    curve: number,
    digits: number,
  ) => (
    <Slider
      label={label}
      value={value}
      min={min}
      max={max}
      step={digits ? 0.1 : 1}
      digits={digits}
      unit="px"
      fallback={0}
      curve={curve}
      onPreview={(v) => preview(edit({ [name]: v }))}
      onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [name]: v }))}
    />
  )
  if (!isFinding(step)) {
    const page = modifierPage(step.kind)
    return (
      <>
        {page?.values.map(({ field, label, min, max, digits, unit, fallback, curve, factor = 1 }) => (
          <Slider
            key={field}
            label={label}
            value={(step as never as Record<string, number>)[field] * factor}
            min={min}
            max={max}
            step={10 ** -digits}
            digits={digits}
            unit={unit}
            fallback={fallback}
            curve={curve}
            onPreview={(v) => preview(edit({ [field]: v / factor }))}
            onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v / factor }))}
          />
        ))}
        {page?.Panel && <page.Panel step={step as never} home={home} />}
        <p className="text-xs leading-relaxed text-[var(--muted)]">{page?.words}</p>
      </>
    )
  }
  const page = pageOfStep(step)
  return (
    <>
      {page && <page.Panel step={step} home={home} />}
      {slider('Feather', 'feather', step.feather, 0, 400, 2.4, 1)}
      {slider('Grow', 'grow', step.grow, -200, 200, 2, 1)}
    </>
  )
}
