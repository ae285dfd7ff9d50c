'use client'
/** What a batch does with each picture: its steps, and how what they select goes out. */
import { type Hex } from '@/core/compose/fill'
import { type Batch } from '@/document/exchanged'
import { type BatchOutput, type BatchPlan } from '@/document/batchPlan'
import { LIMITS } from '@/document/limits'
import { FILE_FORMATS, FORMATS, keepsAlpha, USUAL_QUALITY } from '@/document/fileFormats'
import { stepName } from '@/ui/modifiers/registry'
import { Button } from '@/ui/primitives/Button'
import { Choice, Select, Switch } from '@/ui/primitives/Choice'
import { ColourField } from '@/ui/primitives/ColourField'
import { LongestSide } from '@/ui/primitives/LongestSide'
import { saveJson } from '@/ui/primitives/saveFile'
import { Slider } from '@/ui/primitives/Slider'
import { choosePictureFiles, sendWithProgress, tell } from '@/ui/store/addPictures'
import { useEffect, useState } from 'react'
import { isBusy } from './useBatch'

const WHITE: Hex = '#ffffff'

export function PlanPanel({ batch, onChange }: { batch: Batch; onChange: (plan: BatchPlan) => void }) {
  // Shown at once; the server's answer follows.
  const [output, setOutput] = useState(batch.plan.output),
    { steps, canvas } = batch.plan,
    busy = isBusy(batch)
  useEffect(() => setOutput(batch.plan.output), [batch.plan.output])
  const change = (some: Partial<BatchOutput>) => {
    const next = { ...output, ...some }
    if (next.what === 'cutout' && next.backdrop === undefined && !keepsAlpha(next.format)) next.format = 'png'
    setOutput(next)
    onChange({ ...batch.plan, output: next })
  }
  const preview = (some: Partial<BatchOutput>) => setOutput({ ...output, ...some })
  const backdrop = output.backdrop === undefined ? 'none' : output.backdrop.startsWith('#') ? 'colour' : 'picture'
  const chooseBackdrop = () =>
    choosePictureFiles('batch-backdrop', false, ([file]) => {
      if (file) void sendWithProgress(file).then(({ asset }) => change({ backdrop: asset }), tell)
    })
  return (
    <fieldset disabled={busy} className="space-y-5 disabled:opacity-60">
      <section className="space-y-1.5">
        <h2 className="text-xs text-[var(--muted)]">Each picture is selected by</h2>
        {steps.length === 0 && <p className="text-[13px]">no steps: nothing is selected</p>}
        <ol className="space-y-1 text-[13px]">
          {steps.map((step, i) => (
            <li
              key={i}
              className={`rounded-md border border-[var(--line)] px-2.5 py-1.5 ${step.hidden ? 'line-through opacity-60' : ''}`}
            >
              {step.name ?? stepName(step)}
            </li>
          ))}
        </ol>
        {canvas && (
          <p className="text-xs text-[var(--muted)]">
            made on {canvas.width} × {canvas.height} px; scaled to each picture
          </p>
        )}
      </section>
      <section className="space-y-3">
        <h2 className="text-xs text-[var(--muted)]">and goes out as</h2>
        <Choice
          label="What goes out"
          value={output.what}
          options={[
            ['cutout', 'cut-out'],
            ['matte', 'matte'],
          ]}
          onChange={(what) => change({ what })}
        />
        {output.what === 'cutout' && (
          <>
            <Slider
              label="Old colours taken out"
              value={100 * output.fringe}
              min={0}
              max={100}
              step={1}
              unit="%"
              fallback={100}
              onPreview={(v) => preview({ fringe: v / 100 })}
              onSettle={(v) => change({ fringe: v / 100 })}
            />
            <div className="space-y-2">
              <div className="flex items-center justify-between text-[13px]">
                Backdrop
                <Choice
                  small
                  label="Backdrop"
                  value={backdrop}
                  options={[
                    ['none', 'none'],
                    ['colour', 'colour'],
                    ['picture', 'picture'],
                  ]}
                  onChange={(next) => {
                    if (next === 'none') change({ backdrop: undefined })
                    else if (next === 'colour') change({ backdrop: WHITE })
                    else chooseBackdrop()
                  }}
                />
              </div>
              {backdrop === 'colour' && (
                <ColourField
                  label="Colour"
                  value={output.backdrop as Hex}
                  onPreview={(colour) => preview({ backdrop: colour })}
                  onSettle={(colour) => change({ backdrop: colour })}
                />
              )}
              {backdrop === 'picture' && (
                <button
                  type="button"
                  aria-label="Another backdrop"
                  onClick={chooseBackdrop}
                  className="block w-full overflow-hidden rounded-md"
                >
                  <img src={`/api/pictures/${output.backdrop}/thumbnail`} alt="" className="h-24 w-full object-cover" />
                </button>
              )}
            </div>
          </>
        )}
        <Switch label="Cut to what shows" checked={output.trim} onChange={(trim) => change({ trim })} />
        <LongestSide value={output.longest} most={LIMITS.side} onChange={(longest) => change({ longest })} />
        <div className="flex items-center justify-between text-[13px]">
          Format
          <Select
            label="Format"
            value={output.format}
            options={FILE_FORMATS.filter(
              (format) => output.what === 'matte' || output.backdrop !== undefined || keepsAlpha(format),
            ).map((format) => [format, FORMATS[format].name] as const)}
            onChange={(format) => change({ format })}
          />
        </div>
        {FORMATS[output.format].lossy && (
          <Slider
            label="Quality"
            value={output.quality}
            min={1}
            max={100}
            step={1}
            fallback={USUAL_QUALITY}
            onPreview={(quality) => preview({ quality })}
            onSettle={(quality) => change({ quality })}
          />
        )}
      </section>
      {batch.counts.done > 0 && !busy && (
        <p className="text-xs text-[var(--muted)]">A change here throws away what was made, and makes it new.</p>
      )}
      <Button className="w-full" onClick={() => saveJson(`${batch.name}.json`, batch.plan)}>
        Save the plan as a file
      </Button>
    </fieldset>
  )
}
