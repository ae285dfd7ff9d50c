'use client'
/** The left column while composing: the hands, and what the next use of the chosen one does. */
import { setLinear } from '@/document/edits'
import { Select } from '@/ui/primitives/Choice'
import { keepFocus, rove } from '@/ui/primitives/roving'
import { act, set, shownProject, useBench } from '@/ui/store/bench'
import { handPage, HANDS } from './hands/registry'

export function ComposePanel() {
  const project = useBench(shownProject),
    chosen = useBench((state) => state.hand)
  if (!project) return null
  const hand = handPage(chosen)
  return (
    <>
      <div
        role="radiogroup"
        aria-label="What the pointer does"
        onKeyDown={rove}
        onMouseDown={keepFocus}
        className="mb-3 grid grid-cols-2 gap-1"
      >
        {HANDS.map(({ id, name, icon: Icon }, i) => (
          <button
            key={id}
            type="button"
            role="radio"
            aria-checked={chosen === id}
            tabIndex={chosen === id ? 0 : -1}
            onClick={() => set({ hand: id })}
            className="flex items-center gap-1.5 rounded-lg px-2 py-1.5 text-[13px] font-medium hover:bg-[var(--hover)] aria-checked:bg-[var(--ink)] aria-checked:text-[var(--panel)]"
          >
            <Icon size={15} className="shrink-0" />
            {name}
            <kbd className="ml-auto font-mono text-[11px] opacity-60" aria-hidden>
              {i + 1}
            </kbd>
          </button>
        ))}
      </div>
      {hand.Panel && <hand.Panel project={project} />}
      <p className="note">
        <b>{hand.name}</b> — {hand.hint}
      </p>
      <div className="mt-3 flex items-center justify-between px-1 text-xs text-[var(--muted)]">
        Blended in
        <Select
          label="What colours are blended in"
          value={project.linear ? 'light' : 'srgb'}
          options={[
            ['srgb', 'sRGB values'],
            ['light', 'linear light'],
          ]}
          onChange={(next) =>
            act(next === 'light' ? 'Blend in linear light' : 'Blend in sRGB', setLinear(next === 'light'))
          }
        />
      </div>
    </>
  )
}
