import { Magnet } from 'lucide-react'
import { liveWire, STRONGEST_GRADIENT } from '@/core/steps/liveWire'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, preview, set, useBench } from '@/ui/store/bench'
import { later } from '@/ui/primitives/later'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { closeWire, press, takeAnchorBack } from './press'

const Handles = later(() => import('./Handles').then((module) => module.Handles))

const reachSlider = {
  min: 1,
  max: 400,
  step: 1,
  unit: 'px',
  curve: 2,
  fallback: liveWire.fields.reach.fallback!,
} as const

function Panel({ step, home }: PanelProps<StepOfKind<'liveWire'>>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <Slider
        label="Reach"
        value={step.reach}
        {...reachSlider}
        onPreview={(reach) => preview(edit({ reach }))}
        onSettle={(reach) => {
          act('Change reach', edit({ reach }))
          set({ wire: { ...get().wire, reach } })
        }}
      />
      <Slider
        label="Edge from"
        value={step.edgeGradient}
        min={0}
        max={STRONGEST_GRADIENT}
        step={0.1}
        digits={1}
        unit="ΔE"
        fallback={liveWire.fields.edgeGradient.fallback!}
        onPreview={(edgeGradient) => preview(edit({ edgeGradient }))}
        onSettle={(edgeGradient) => {
          act('Change what is an edge', edit({ edgeGradient }))
          set({ wire: { ...get().wire, edgeGradient } })
        }}
      />
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {step.anchors.length} anchors. Drag one to move it, press on the wire to pin it there, double-click an anchor to
        unpin.
      </p>
      <AntialiasSwitch step={step} home={home} />
      <SampleChoice step={step} home={home} />
    </>
  )
}

/** How willingly a wire pins itself; its reach and what is an edge stand on its card, also while it is drawn. */
function Tool() {
  const wire = useBench((state) => state.wire),
    change = (v: number) => set({ wire: { ...wire, cooling: v / 100 } })
  return (
    <div className="mb-3 px-1">
      <Slider
        label="Path cooling"
        value={wire.cooling * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
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
  summary: (step) => `${step.anchors.length} anchors · reach ${step.reach} px`,
  press,
  Handles,
  Panel,
  Tool,
  finish: closeWire,
  takeBack: takeAnchorBack,
}
