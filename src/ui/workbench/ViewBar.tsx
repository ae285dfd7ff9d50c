'use client'
import { Popover } from 'radix-ui'
import { type Backing } from '@/engine/page/protocol'
import { Choice, Slider } from '@/ui/primitives/controls'
import { set, useBench } from '@/ui/store/bench'
import { tintColour } from './canvas/CanvasView'
import { VIEWS } from './commands'

const BACKINGS: readonly (readonly [Backing, string])[] = [['checks', 'checks'], ['white', 'white'], ['black', 'black'], ['grey', 'grey']]

/** How the selection is shown over the picture. */
export function ViewBar() {
  const view = useBench((state) => state.view), backing = useBench((state) => state.backing), tintHue = useBench((state) => state.tintHue), rarest = useBench((state) => state.rarestHue), opacity = useBench((state) => state.tintOpacity), dim = useBench((state) => state.dim)
  const colour = `rgb(${tintColour(tintHue ?? rarest).join(' ')})`
  return (
    <div className="pointer-events-none absolute inset-x-3 top-2.5 flex items-start justify-between gap-3 *:pointer-events-auto">
      <Choice label="How the selection is shown" value={view} options={VIEWS} onChange={(next) => set({ view: next })} />
      {view === 'cutout' && <Choice small label="Backing" value={backing} options={BACKINGS} onChange={(next) => set({ backing: next })} />}
      {view === 'dimmed' && <div className="w-64 rounded-lg border border-[var(--line)] bg-[var(--panel)] px-2.5 py-1"><Slider label="Dimming" value={dim * 100} min={10} max={100} step={1} unit="%" fallback={70} onPreview={(v) => set({ dim: v / 100 })} onSettle={(v) => set({ dim: v / 100 })} /></div>}
      {view === 'tint' && (
        <Popover.Root>
          <Popover.Trigger className="flex items-center gap-2 rounded-lg border border-[var(--line)] bg-[var(--panel)] px-2.5 py-1.5 text-[13px] font-medium">Tint <span className="size-3.5 rounded-full border border-black/20" style={{ background: colour }} /><span className="font-mono text-xs">{Math.round(opacity * 100)}%</span></Popover.Trigger>
          <Popover.Portal>
            <Popover.Content align="end" sideOffset={6} className="z-40 w-72 space-y-1 rounded-xl border border-[var(--line)] bg-[var(--panel)] p-3 shadow-lg">
              <Slider label="Opacity" value={opacity * 100} min={5} max={100} step={1} unit="%" fallback={50} onPreview={(v) => set({ tintOpacity: v / 100 })} onSettle={(v) => set({ tintOpacity: v / 100 })} />
              <Slider label="Hue" value={tintHue ?? rarest} min={0} max={359} step={1} unit="°" fallback={rarest} onPreview={(v) => set({ tintHue: v })} onSettle={(v) => set({ tintHue: v })} />
              <button type="button" className="text-xs text-[var(--muted)] underline underline-offset-2" onClick={() => set({ tintHue: null })}>the hue rarest in the picture</button>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  )
}
