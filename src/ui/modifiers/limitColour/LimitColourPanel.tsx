import { type StepOfKind } from '@/core/steps/registry'
import { type PanelProps } from '@/ui/finders/finder'
import { PaletteValues } from '@/ui/finders/palette/PaletteValues'
import { Button } from '@/ui/primitives/Button'
import { set, useBench } from '@/ui/store/bench'

/** Colours are taken with the Palette finder: it can be chosen here. */
export function LimitColourPanel({ step, home }: PanelProps<StepOfKind<'limitColour'>>) {
  const picking = useBench((state) => state.finder === 'palette')
  return (
    <>
      <PaletteValues step={step} home={home} />
      {!picking && (
        <Button className="!min-h-7 !text-xs" onClick={() => set({ finder: 'palette', drawing: null })}>
          Take colours from the picture
        </Button>
      )}
    </>
  )
}
