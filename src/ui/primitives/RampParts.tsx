/** What the panels of all gradients share: the form, what is done with all stops. */
import { RAMP_SHAPES, type RampShape } from '@/core/raster/ramp'
import { Select } from './Choice'

export function RampForm({ shape, onChange }: { shape: RampShape; onChange: (shape: RampShape) => void }) {
  return (
    <div className="flex items-center justify-between text-[13px]">
      Form
      <Select
        label="Form of the gradient"
        value={shape}
        options={RAMP_SHAPES.map((each) => [each, each] as const)}
        onChange={onChange}
      />
    </div>
  )
}

export function StopActions({ add, reverse }: { add: () => void; reverse: () => void }) {
  return (
    <div className="flex justify-between">
      {(
        [
          ['add a stop', add],
          ['reverse', reverse],
        ] as const
      ).map(([name, act]) => (
        <button
          key={name}
          type="button"
          className="text-xs text-[var(--muted)] underline underline-offset-2"
          onClick={act}
        >
          {name}
        </button>
      ))}
    </div>
  )
}
