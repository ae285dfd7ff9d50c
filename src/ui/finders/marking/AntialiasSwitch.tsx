import { type Step } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { Switch } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'

/** Whether pixels on the outline are covered in part. */
export function AntialiasSwitch({
  step,
  home,
}: {
  step: Extract<Step, { readonly antialias: boolean }>
  home: RecipeHome
}) {
  return (
    <Switch
      label="Anti-aliasing"
      checked={step.antialias}
      onChange={(antialias) => act('Anti-aliasing', changeStep(home, step.id!, { antialias }))}
    />
  )
}
