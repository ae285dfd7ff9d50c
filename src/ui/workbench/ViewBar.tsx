'use client'
import { Popover } from 'radix-ui'
import { Choice } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { type BenchState } from '@/ui/store/benchState'
import { set, useBench } from '@/ui/store/bench'
import { tintOf } from './canvas/overlayStyle'
import { VIEWS } from './command'

const BACKINGS: readonly (readonly [BenchState['backing'], string])[] = [
  ['checks', 'checks'],
  ['#ffffff', 'white'],
  ['#121212', 'black'],
  ['#808080', 'grey'],
  ['below', 'layers below'],
]

const hexOf = (colour: readonly number[]): string => `#${colour.map((v) => v.toString(16).padStart(2, '0')).join('')}`

/** How the selection is shown over the picture. */
export function ViewBar() {
  const view = useBench((state) => state.view),
    backing = useBench((state) => state.backing),
    own = useBench((state) => state.tint),
    opacity = useBench((state) => state.tintOpacity),
    hidden = useBench((state) => state.tintHidden),
    dim = useBench((state) => state.dim)
  const colour = useBench((state) => hexOf(tintOf(state)))
  return (
    <div className="pointer-events-none absolute inset-x-3 top-[calc(10px+var(--ruler))] left-[calc(12px+var(--ruler))] flex items-start justify-between gap-3 *:pointer-events-auto">
      <Choice
        label="How the selection is shown"
        value={view}
        options={VIEWS}
        onChange={(next) => set({ view: next })}
      />
      {view === 'cutout' && (
        <div className="flex items-center gap-1.5">
          <Choice
            small
            label="Backing"
            value={backing}
            options={BACKINGS}
            onChange={(next) => set({ backing: next })}
          />
          <label
            className="grid size-8 place-items-center rounded-lg border border-[var(--line)] bg-[var(--panel)]"
            title="Any colour behind the cut-out"
          >
            <input
              type="color"
              aria-label="Colour behind the cut-out"
              value={backing.startsWith('#') ? backing : '#3a7d44'}
              onChange={(event) => set({ backing: event.target.value as `#${string}` })}
              className="size-5 cursor-pointer border-0 bg-transparent p-0"
            />
          </label>
        </div>
      )}
      {view === 'dimmed' && (
        <div className="w-64 rounded-lg border border-[var(--line)] bg-[var(--panel)] px-2.5 py-1">
          <Slider
            label="Dimming"
            value={dim * 100}
            min={10}
            max={100}
            step={1}
            unit="%"
            fallback={70}
            onPreview={(v) => set({ dim: v / 100 })}
            onSettle={(v) => set({ dim: v / 100 })}
          />
        </div>
      )}
      {view === 'tint' && (
        <Popover.Root>
          <Popover.Trigger className="flex items-center gap-2 rounded-lg border border-[var(--line)] bg-[var(--panel)] px-2.5 py-1.5 text-[13px] font-medium">
            Tint <span className="size-3.5 rounded-full border border-black/20" style={{ background: colour }} />
            <span className="font-mono text-xs">{Math.round(opacity * 100)}%</span>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label="The tint"
              align="end"
              sideOffset={6}
              className="z-40 w-72 space-y-1 rounded-xl border border-[var(--line)] bg-[var(--panel)] p-3 shadow-lg"
            >
              <Slider
                label="Opacity"
                value={opacity * 100}
                min={5}
                max={100}
                step={1}
                unit="%"
                fallback={50}
                onPreview={(v) => set({ tintOpacity: v / 100 })}
                onSettle={(v) => set({ tintOpacity: v / 100 })}
              />
              <div className="flex items-center justify-between pt-1 text-[13px]">
                <label className="flex items-center gap-2">
                  Colour{' '}
                  <input
                    type="color"
                    aria-label="Tint colour"
                    value={colour}
                    onChange={(event) => set({ tint: event.target.value })}
                    className="size-6 cursor-pointer border-0 bg-transparent p-0"
                  />
                </label>
                <button
                  type="button"
                  className="text-xs text-[var(--muted)] underline underline-offset-2"
                  disabled={own === null}
                  onClick={() => set({ tint: null })}
                >
                  the hue rarest in the picture
                </button>
              </div>
              <Choice
                small
                label="What is tinted"
                value={hidden ? 'hidden' : 'selected'}
                options={[
                  ['selected', 'what is selected'],
                  ['hidden', 'what is hidden'],
                ]}
                onChange={(v) => set({ tintHidden: v === 'hidden' })}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  )
}
