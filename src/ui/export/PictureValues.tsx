'use client'
/** How a picture goes out: format, quality, size, what is written beside. */
import { FILE_FORMATS, FORMATS, keepsAlpha, USUAL_QUALITY } from '@/document/fileFormats'
import { Choice, Select, Switch } from '@/ui/primitives/Choice'
import { LongestSide } from '@/ui/primitives/LongestSide'
import { Slider } from '@/ui/primitives/Slider'
import { type Choices, choose, type What } from './choices'

/** What can go out, as it is listed. */
export interface Row {
  readonly what: What
  readonly name: string
  readonly words: string
  /** Why it cannot go out now. */
  readonly why?: string
}

export function Depth({ depth }: { depth: 8 | 16 }) {
  return (
    <div className="flex items-center justify-between">
      Bits a channel
      <Choice
        small
        label="Bits a channel"
        value={depth}
        options={[
          [8, '8'],
          [16, '16'],
        ]}
        onChange={(next) => choose({ depth: next })}
      />
    </div>
  )
}

export function PictureValues({
  row,
  form,
  format,
  choices,
  full,
}: {
  row: Row
  form: 'cutout' | 'composite'
  format: Choices['composite']
  choices: Choices
  full: number
}) {
  return (
    <>
      <div className="flex items-center justify-between">
        Format
        <Select
          label="Format"
          value={format}
          options={FILE_FORMATS.filter((each) => row.what === 'composite' || keepsAlpha(each)).map(
            (each) => [each, FORMATS[each].name] as const,
          )}
          onChange={(next) => choose({ [form]: next })}
        />
      </div>
      {FORMATS[format].lossy && (
        <Slider
          label="Quality"
          value={choices.quality}
          min={1}
          max={100}
          step={1}
          fallback={USUAL_QUALITY}
          onPreview={(quality) => choose({ quality })}
          onSettle={(quality) => choose({ quality })}
        />
      )}
      {FORMATS[format].deep && row.what !== 'cutout' && <Depth depth={choices.depth} />}
      <LongestSide
        value={choices.longest ?? undefined}
        most={full}
        onChange={(longest) => choose({ longest: longest ?? null })}
      />
      <Switch label="Camera and author" checked={choices.exif} onChange={(exif) => choose({ exif })} />
    </>
  )
}
