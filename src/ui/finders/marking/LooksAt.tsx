import { type Sample } from '@/core/steps/step'
import { Choice } from '@/ui/primitives/Choice'

/** Whether all visible layers are looked at, or the active one. */
export function LooksAt({
  label = 'What is looked at',
  value,
  onChange,
}: {
  label?: string
  value: Sample
  onChange: (sample: Sample) => void
}) {
  return (
    <Choice
      small
      label={label}
      value={value}
      options={[
        ['all', 'all layers'],
        ['layer', 'this layer'],
      ]}
      onChange={onChange}
    />
  )
}
