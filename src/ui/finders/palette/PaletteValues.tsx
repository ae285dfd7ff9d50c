import { X } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { PERCENT, StepSlider } from '../StepSlider'
import { act, preview } from '@/ui/store/bench'
import { later } from '@/ui/primitives/later'

const DistanceChart = later(() => import('./DistanceChart').then((module) => module.DistanceChart))

/** The colours, their spread on the histogram, and its softness: of a palette, and of the step that keeps only some colours. */
export function PaletteValues({ step, home }: { step: StepOfKind<'palette' | 'limitColour'>; home: RecipeHome }) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <ul className="flex flex-wrap gap-1.5" aria-label="Colours of the palette">
        {step.colours.map((colour, i) => (
          <li key={colour.join()}>
            <button
              type="button"
              aria-label={`Remove colour ${colour.join(' ')}`}
              title={`${colour.join(' ')}: remove`}
              onClick={() => act('Remove colour', edit({ colours: step.colours.filter((_, k) => k !== i) }))}
              className="group grid size-7 place-items-center rounded-md border border-black/25"
              style={{ background: `rgb(${colour.join(' ')})` }}
            >
              <X
                size={13}
                className="rounded-full bg-black/60 text-white opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100"
              />
            </button>
          </li>
        ))}
        {step.colours.length === 0 && <li className="text-xs text-[var(--muted)]">Click colours on the picture.</li>}
      </ul>
      <StepSlider step={step} home={home} field="spread" label="Spread" digits={1} by={0.5} curve={1.5} />
      <DistanceChart
        step={step}
        onPreview={(spread) => preview(edit({ spread }))}
        onSettle={(spread) => act('Change spread', edit({ spread }))}
      />
      <StepSlider step={step} home={home} field="softness" label="Softness" {...PERCENT} />
    </>
  )
}
