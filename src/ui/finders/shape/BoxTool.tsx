import { ArrowLeftRight, Pin } from 'lucide-react'
import { NumberField } from '@/ui/primitives/NumberField'
import { IconButton } from '@/ui/primitives/Button'
import { Switch } from '@/ui/primitives/Choice'
import { type Proportions } from '@/ui/store/rooms/tool'
import { set, shownSteps, useBench } from '@/ui/store/bench'
import { later } from '@/ui/primitives/later'
import { withId } from '@/document/withId'

const LinesChoice = later(() => import('./LinesChoice').then((module) => module.LinesChoice))

const MOST = 1e6
const TOGGLE =
  'flex h-6 items-center gap-1 rounded-md border border-[var(--line-strong)] px-1.5 text-[12px] whitespace-nowrap hover:bg-[var(--hover)] aria-pressed:border-[var(--ink)] aria-pressed:bg-[var(--focused)] aria-pressed:font-semibold'
type Length = 'width' | 'height'
const OTHER: Record<Length, Length> = { width: 'height', height: 'width' }

/** What is pinned: that stays while boxes are drawn and stretched. */
const isPinned = ({ mode }: Proportions, what: Length | 'ratio'): boolean =>
  mode === what || (mode === 'size' && what !== 'ratio')

/** What boxes keep while they are drawn and stretched, the lines inside them, and whether they cling. */
export function BoxTool() {
  const keep = useBench((state) => state.proportions),
    snapping = useBench((state) => state.snapping),
    middle = useBench((state) => state.boxFromMiddle),
    equal = useBench((state) => state.boxEqual)
  const open = useBench((state) => withId(shownSteps(state), state.openStep))
  const change = (values: Partial<Proportions>) => set({ proportions: { ...keep, ...values } })
  /** A length is pinned as the open box has it; the ratio lets go of lengths, and they of it. */
  const pin = (what: Length | 'ratio') => {
    if (what === 'ratio') change(keep.mode === 'ratio' ? { mode: 'free' } : { mode: 'ratio', width: 3, height: 2 })
    else {
      const other = isPinned(keep, OTHER[what]),
        mode = isPinned(keep, what) ? (other ? OTHER[what] : 'free') : other ? 'size' : what
      const has = open && 'width' in open && 'height' in open && !isPinned(keep, what) ? Math.round(open[what]) : 0
      change({ mode, ...(keep.mode === 'ratio' ? { width: 300, height: 200 } : {}), ...(has ? { [what]: has } : {}) })
    }
  }
  const field = (label: string, name: Length) => (
    <NumberField
      label={label}
      value={keep[name]}
      min={keep.mode === 'ratio' ? 0.01 : 1}
      max={MOST}
      unit={keep.mode === 'ratio' ? '' : 'px'}
      digits={keep[name] % 1 ? 2 : 0}
      className="w-[68px]"
      onSettle={(value) => change({ [name]: value })}
    />
  )
  const pinButton = (what: Length | 'ratio', label: string) => (
    <button
      type="button"
      aria-pressed={isPinned(keep, what)}
      title={`Pinned, the ${what} stays while boxes are drawn and stretched`}
      onClick={() => pin(what)}
      className={TOGGLE}
    >
      <Pin size={11} />
      {label}
    </button>
  )
  const toggle = (label: string, title: string, on: boolean, change: (on: boolean) => void) => (
    <button type="button" aria-pressed={on} title={title} onClick={() => change(!on)} className={TOGGLE}>
      {label}
    </button>
  )
  return (
    <div className="mb-2 space-y-1.5 px-1">
      <div role="group" aria-label="Pinned" className="flex justify-between">
        {pinButton('width', 'width')}
        {pinButton('height', 'height')}
        {pinButton('ratio', 'ratio')}
      </div>
      {keep.mode !== 'free' && (
        <div className="flex items-center justify-between gap-1">
          {keep.mode !== 'height' && field(keep.mode === 'ratio' ? 'Ratio, width' : 'Pinned width', 'width')}
          {(keep.mode === 'ratio' || keep.mode === 'size') && (
            <IconButton
              label="Swap width and height"
              className="!size-6"
              onClick={() => change({ width: keep.height, height: keep.width })}
            >
              <ArrowLeftRight size={14} />
            </IconButton>
          )}
          {keep.mode !== 'width' && field(keep.mode === 'ratio' ? 'Ratio, height' : 'Pinned height', 'height')}
        </div>
      )}
      <div role="group" aria-label="How boxes grow" className="flex gap-1">
        {toggle('from the middle', 'As Alt does while it is held', middle, (on) => set({ boxFromMiddle: on }))}
        {toggle('equal sides', 'As Shift does while it is held', equal, (on) => set({ boxEqual: on }))}
      </div>
      <LinesChoice inside="box" />
      <Switch label="Snap to edges, guides" checked={snapping} onChange={(on) => set({ snapping: on })} />
    </div>
  )
}
