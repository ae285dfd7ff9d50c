import { Magnet } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, set, useBench } from '@/ui/store/bench'
import { initialTool } from '@/ui/store/rooms/tool'
import { later } from '@/ui/primitives/later'
import { type FinderPage, type PanelProps } from '../finder'
import { Switch } from '@/ui/primitives/Choice'
import { changeStep } from '@/document/edits'
import { SampleChoice } from '../marking/SampleChoice'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { StepSlider } from '../StepSlider'
import { closeWire, press, takeAnchorBack } from './press'
import { counted } from '@/ui/primitives/counted'

const Handles = later(() => import('./Handles').then((module) => module.Handles))

const FOLLOWING =
  'Following the object, a few anchors are enough: where its outline passes two of them, the wire goes along it.'

function Panel({ step, home }: PanelProps<StepOfKind<'liveWire'>>) {
  return (
    <>
      <StepSlider
        step={step}
        home={home}
        field="reach"
        label="Reach"
        unit="px"
        curve={2}
        onSettled={(reach) => set({ wire: { ...get().wire, reach } })}
      />
      <StepSlider
        step={step}
        home={home}
        field="edgeGradient"
        label="Edge from"
        digits={1}
        unit="ΔE"
        change="Change what is an edge"
        onSettled={(edgeGradient) => set({ wire: { ...get().wire, edgeGradient } })}
      />
      <Switch
        label="Follow the object"
        checked={step.followObject}
        onChange={(followObject) => {
          set({ wire: { ...get().wire, followObject } })
          act('Follow the object', changeStep(home, step.id!, { followObject }))
        }}
      />
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {counted(step.anchors.length, 'anchor')}. Drag one to move it, press on the wire to pin it there, double-click
        an anchor to unpin. {FOLLOWING}
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
        fallback={initialTool.wire.cooling * 100}
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
  summary: (step) => `${counted(step.anchors.length, 'anchor')} · reach ${step.reach} px`,
  press,
  Handles,
  Panel,
  Tool,
  finish: closeWire,
  takeBack: takeAnchorBack,
}
