'use client'
import { useState } from 'react'
import { toast } from 'sonner'
import { type Box } from '@/core/raster/content'
import { type Project, type Window } from '@/document/records'
import { setWindow } from '@/document/window'
import { Button } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { Select } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview, set, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { say } from '@/ui/store/say'
import { LinesChoice } from '@/ui/finders/shape/LinesChoice'
import { ratioOf, shown } from './cropWindow'

/** Ratios of width to height; 0: free, and the picture's own. */
const RATIOS: readonly (readonly [string, string])[] = [
  ['free', 'free'],
  ['own', 'as the canvas'],
  ['1', '1 : 1'],
  ['1.5', '3 : 2'],
  ['1.3333333333333333', '4 : 3'],
  ['1.25', '5 : 4'],
  ['1.7777777777777777', '16 : 9'],
  ['0.6666666666666666', '2 : 3'],
  ['0.75', '3 : 4'],
  ['0.8', '4 : 5'],
  ['0.5625', '9 : 16'],
]
/** The window around what is there: what shows before an even border, or what is selected. */
function CropTo({ project }: { project: Project }) {
  const bounds = useBench((state) => (state.home.kind === 'selection' ? state.result?.bounds : undefined))
  const [busy, setBusy] = useState(false)
  const to = (label: string, { x, y, width, height }: Box) => {
    act(label, setWindow({ cx: x + width / 2, cy: y + height / 2, width, height, turn: 0 }))
    set({ cropRatio: 'free' })
  }
  const toWhatShows = async () => {
    setBusy(true)
    try {
      const { width, height } = project.canvas
      const box = await askEngine((engine, request) => engine.contentBox(request, { x: 0, y: 0, width, height }, 'all'))
      if (!box || (box.width === width && box.height === height))
        toast('Nothing to crop: what shows reaches all sides of the canvas.')
      else to('Crop to what shows', box)
    } catch (error) {
      say(error)
    } finally {
      setBusy(false)
    }
  }
  return (
    <div className="text-[13px]">
      Crop to
      <span className="mt-1 flex gap-1.5">
        <Button
          className="!min-h-7 flex-1 !px-2 !text-xs whitespace-nowrap"
          why={busy ? 'Looking …' : undefined}
          title="Cuts away an even or transparent border"
          onClick={() => void toWhatShows()}
        >
          what shows
        </Button>
        <Button
          className="!min-h-7 flex-1 !px-2 !text-xs whitespace-nowrap"
          why={bounds ? undefined : 'Nothing is selected.'}
          onClick={() => bounds && to('Crop to what is selected', bounds)}
        >
          what is selected
        </Button>
      </span>
    </div>
  )
}

export function CropPanel({ project }: { project: Project }) {
  const ratio = useBench((state) => state.cropRatio)
  const window = shown(project),
    put = (label: string, change: Partial<Window>) => act(label, setWindow({ ...window, ...change }))
  const chooseRatio = (next: string) => {
    set({ cropRatio: next })
    const value = ratioOf(next, project)
    if (value > 0) {
      const area = window.width * window.height,
        width = Math.min(window.width, Math.sqrt(area * value))
      put(
        'Crop to a ratio',
        width / value <= window.height
          ? { width, height: width / value }
          : { width: window.height * value, height: window.height },
      )
    }
  }
  const side = (label: string, name: 'width' | 'height') => (
    <label className="flex items-center justify-between text-[13px]">
      {label}
      <NumberField
        label={`${label} of the canvas`}
        value={window[name]}
        min={1}
        max={40_000}
        unit="px"
        className="w-24"
        onSettle={(value) => put('Canvas size', { [name]: value })}
      />
    </label>
  )
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <div className="flex items-center justify-between text-[13px]">
        Ratio
        <Select label="Ratio of the crop" value={ratio} options={RATIOS} onChange={chooseRatio} />
      </div>
      {side('Width', 'width')}
      {side('Height', 'height')}
      <Slider
        label="Straighten"
        value={window.turn}
        min={-45}
        max={45}
        step={0.1}
        digits={1}
        unit="°"
        fallback={0}
        curve={1.6}
        onPreview={(turn) => preview(setWindow({ ...window, turn }))}
        onSettle={(turn) => put('Straighten', { turn })}
      />
      <CropTo project={project} />
      <LinesChoice inside="crop" />
      <div className="flex gap-1.5 pt-1">
        <Button tone="accent" className="flex-1 !min-h-8" onClick={() => set({ hand: 'place' })}>
          Done
        </Button>
        <Button
          className="flex-1 !min-h-8"
          why={project.window ? undefined : 'Nothing is cropped.'}
          onClick={() => act('All of the canvas', setWindow(null))}
        >
          Uncrop
        </Button>
      </div>
    </div>
  )
}
