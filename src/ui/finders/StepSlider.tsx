import { type Field } from '@/core/fields/fields'
import { fieldsOf } from '@/core/formats/recipe'
import { type Step } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'

interface Shown {
  /** One of the numbers of a kind of step. */ readonly field: string
  readonly label: string
  /** The track's ends, where it does not show all that the field takes. */ readonly min?: number
  readonly max?: number
  readonly digits?: number
  /** How far one press of an arrow key goes; otherwise by the last digit. */ readonly by?: number
  readonly unit?: string
  /** What is typed is rounded to a whole number. */ readonly whole?: true
  /** Shown value for one of the record's. */ readonly factor?: number
  readonly curve?: number
  /** What is usual, where the field has no default. */ readonly usual?: number
}

/** How a share, 0-1, is shown. */
export const PERCENT = { unit: '%', factor: 100 } as const

interface FieldProps extends Shown {
  readonly kind: Step['kind']
  readonly value: number
  readonly onPreview: (value: number) => void
  readonly onSettle: (value: number) => void
}

/** A number as a kind of step has it: what it takes and what is usual stands with its field, in core/steps. */
export function FieldSlider({ kind, field, value, min, max, factor = 1, usual, by, whole, ...shown }: FieldProps) {
  const { fallback, ends } = fieldsOf(kind)![field] as Field<number>,
    { digits = 0, onPreview, onSettle } = shown
  return (
    <Slider
      {...shown}
      value={value * factor}
      min={min ?? ends![0] * factor}
      max={max ?? ends![1] * factor}
      step={by ?? 10 ** -digits}
      fallback={(usual ?? fallback ?? 0) * factor}
      onPreview={(v) => onPreview(v / factor)}
      onSettle={(v) => onSettle(whole ? Math.round(v / factor) : v / factor)}
    />
  )
}

interface StepProps extends Shown {
  readonly step: Step
  readonly home: RecipeHome
  /** What the change is called; otherwise after the label. */ readonly change?: string
  /** What else hears of the new value. */ readonly onSettled?: (value: number) => void
}

/** A number of a step, to be changed. */
export function StepSlider({ step, home, change, onSettled, ...shown }: StepProps) {
  const edit = (value: number) => changeStep(home, step.id!, { [shown.field]: value })
  return (
    <FieldSlider
      {...shown}
      kind={step.kind}
      value={(step as unknown as Record<string, number>)[shown.field]}
      onPreview={(value) => preview(edit(value))}
      onSettle={(value) => {
        act(change ?? `Change ${shown.label.toLowerCase()}`, edit(value))
        onSettled?.(value)
      }}
    />
  )
}
