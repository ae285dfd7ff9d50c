import { Magnet } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { Switch } from '@/ui/primitives/Choice'
import { act, get, preview, set, useBench } from '@/ui/store/bench'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { Handles } from './Handles'
import { closeWire, press, takeAnchorBack } from './press'

const widthSlider = { min: 1, max: 400, step: 1, unit: 'px', curve: 2, fallback: 24 } as const
const percent = { min: 0, max: 100, step: 1, unit: '%' } as const

function Panel({ step, home }: PanelProps<StepOfKind<'liveWire'>>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <Slider
        label="Reach"
        value={step.width}
        {...widthSlider}
        onPreview={(width) => preview(edit({ width }))}
        onSettle={(width) => {
          act('Change reach', edit({ width }))
          set({ wire: { ...get().wire, width } })
        }}
      />
      <Slider
        label="Contrast"
        value={step.contrast * 100}
        {...percent}
        fallback={10}
        onPreview={(v) => preview(edit({ contrast: v / 100 }))}
        onSettle={(v) => {
          act('Change contrast', edit({ contrast: v / 100 }))
          set({ wire: { ...get().wire, contrast: v / 100 } })
        }}
      />
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {step.anchors.length} anchors. Drag one to move it, double-click it to unpin.
      </p>
      <Switch
        label="Smooth edge"
        checked={step.antialias}
        onChange={(antialias) => act('Smooth edge', edit({ antialias }))}
      />
      <SampleChoice step={step} home={home} />
    </>
  )
}

/** How willingly a wire pins itself; its reach and what is an edge stand on its card, also while it is drawn. */
function Tool() {
  const wire = useBench((state) => state.wire),
    change = (v: number) => set({ wire: { ...wire, pins: v / 100 } })
  return (
    <div className="mb-3 px-1">
      <Slider
        label="Pins itself"
        value={wire.pins * 100}
        {...percent}
        fallback={50}
        onPreview={change}
        onSettle={change}
      />
    </div>
  )
}

export const liveWirePage: FinderPage<'liveWire'> = {
  id: 'liveWire',
  kind: 'liveWire',
  name: 'Live wire',
  group: 'outline',
  icon: Magnet,
  hint: 'Click on an edge, then just move: the outline clings to it. A click pins, Shift-click draws straight, Backspace unpins; the ring or Enter closes.',
  summary: (step) => `${step.anchors.length} anchors · reach ${step.width} px`,
  press,
  Handles,
  Panel,
  Tool,
  finish: closeWire,
  takeBack: takeAnchorBack,
}
