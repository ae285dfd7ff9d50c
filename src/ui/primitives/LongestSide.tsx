'use client'
import { Choice } from './Choice'
import { NumberField } from './NumberField'

/** What is offered first where a picture is to be smaller, px: a page's width on a sharp screen (common practice). */
const USUAL = 1600

/** The size of a picture that goes out: full, or so many px on its longer side. */
export function LongestSide({
  value,
  most,
  onChange,
}: {
  /** Undefined: full. */
  value: number | undefined
  most: number
  onChange: (longest: number | undefined) => void
}) {
  return (
    <>
      <div className="flex items-center justify-between text-[13px]">
        Size
        <Choice
          small
          label="Size of the file’s picture"
          value={value === undefined ? 'full' : 'smaller'}
          options={[
            ['full', 'full'],
            ['smaller', 'smaller'],
          ]}
          onChange={(size) => onChange(size === 'full' ? undefined : Math.min(USUAL, most))}
        />
      </div>
      {value !== undefined && (
        <div className="flex items-center justify-between text-[13px]">
          Longer side
          <NumberField
            label="Longer side"
            value={Math.min(value, most)}
            min={1}
            max={most}
            unit="px"
            className="w-[84px]"
            onSettle={(v) => onChange(Math.round(v))}
          />
        </div>
      )}
    </>
  )
}
