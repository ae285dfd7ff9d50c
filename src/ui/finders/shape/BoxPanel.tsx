import { changeStep } from '@/document/edits'
import { NumberField, Slider, Switch } from '@/ui/primitives/controls'
import { act, preview } from '@/ui/store/bench'
import { type PanelProps } from '../finder'
import { type BoxStep } from './pressBox'

const FAR = 1e7

/** Exact numbers, turning and edge of a shape in a box; a rectangle's corner radius. */
export function BoxPanel({ step, home }: PanelProps<BoxStep>) {
  const change = (values: object) => changeStep(home, step.id!, values)
  const field = (label: string, name: 'x' | 'y' | 'width' | 'height', min: number) => (
    <label className="flex items-center justify-between gap-1 text-[13px]">{label}
      <NumberField label={label} value={step[name]} min={min} max={FAR} unit="px" digits={step[name] % 1 ? 1 : 0} className="w-[88px]" onSettle={(value) => act(`Change ${label.toLowerCase()}`, change({ [name]: value }))} />
    </label>
  )
  const most = Math.max(1, Math.round(Math.min(step.width, step.height) / 2))
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">{field('X', 'x', -FAR)}{field('Width', 'width', 0)}{field('Y', 'y', -FAR)}{field('Height', 'height', 0)}</div>
      {step.kind === 'rectangle' && <Slider label="Corners" value={Math.min(most, step.cornerRadius)} min={0} max={most} step={1} fallback={0} unit="px" onPreview={(cornerRadius) => preview(change({ cornerRadius }))} onSettle={(cornerRadius) => act('Change corner radius', change({ cornerRadius }))} />}
      <Slider label="Turn" value={((step.rotation + 540) % 360) - 180} min={-180} max={180} step={0.5} digits={1} fallback={0} unit="°" onPreview={(rotation) => preview(change({ rotation }))} onSettle={(rotation) => act('Turn', change({ rotation }))} />
      <Switch label="Smooth edge" checked={step.antialias} onChange={(antialias) => act('Smooth edge', change({ antialias }))} />
    </>
  )
}
