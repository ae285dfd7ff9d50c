'use client'
/** The left column: what the stage offers. Finders by what the editor goes by, pictures, placement, delivery. */
import { memo, useDeferredValue } from 'react'
import { FINDER_PAGES, finderPage, groupsShown } from '@/ui/finders/registry'
import { takeTool } from '@/ui/finders/takeTool'
import { nextUse } from '@/ui/finders/nextUse'
import { COMBINE_OPS } from '@/core/raster/coverage'
import { Tip } from '@/ui/primitives/Button'
import { later } from '@/ui/primitives/later'
import { keepFocus, rove } from '@/ui/primitives/roving'
import { set, useBench } from '@/ui/store/bench'
import { keyHint } from '@/ui/store/ownKeys'
import { type Stage } from '@/ui/store/rooms/view'
import { OpGlyph } from './list/OpGlyph'

const EdgePanel = later(() => import('../edge/EdgePanel').then((module) => module.EdgePanel))
const ComposePanel = later(() => import('../compose/ComposePanel').then((module) => module.ComposePanel))
const MatchPanel = later(() => import('../match/MatchPanel').then((module) => module.MatchPanel))
const ExportPanel = later(() => import('../export/ExportPanel').then((module) => module.ExportPanel))
const GatherPanel = later(() => import('./GatherPanel').then((module) => module.GatherPanel))

export function StageColumn() {
  const stage = useBench((state) => state.stage)
  return (
    <div className="flex h-full flex-col overflow-y-auto px-2.5 py-3 *:shrink-0">
      <Panel stage={useDeferredValue(stage)} />
    </div>
  )
}

/** Made in slices, between which the page answers. */
const Panel = memo(function Panel({ stage }: { stage: Stage }) {
  return (
    <>
      {stage === 'select' && <Finders />}
      {stage === 'edge' && <EdgePanel />}
      {stage === 'gather' && <GatherPanel />}
      {stage === 'compose' && <ComposePanel />}
      {stage === 'match' && <MatchPanel />}
      {stage === 'export' && <ExportPanel />}
    </>
  )
})

const WORDS = {
  replace: 'Replaces what is selected',
  add: 'Adds to what is selected',
  subtract: 'Takes away from what is selected',
  intersect: 'Keeps the overlap with what is selected',
} as const

/** What the next use of the chosen tool does; keys held say so for one use. */
function NextUse() {
  const next = useBench(nextUse),
    adds = useBench((state) => finderPage(state.finder).adds)
  return (
    <div
      className="mb-2 flex items-center justify-between px-1 text-xs text-[var(--muted)]"
      role="radiogroup"
      aria-label="What the next use does"
      onKeyDown={rove}
    >
      <span>Next</span>
      <span className="flex gap-0.5">
        {(['replace', ...COMBINE_OPS] as const).map((op) => {
          const why = op === 'replace' && adds ? 'This tool goes over what is selected.' : undefined
          return (
            <Tip key={op} text={why ?? WORDS[op]}>
              <button
                type="button"
                role="radio"
                aria-checked={next === op}
                tabIndex={next === op ? 0 : -1}
                aria-disabled={why ? true : undefined}
                aria-label={WORDS[op]}
                onClick={why ? undefined : () => set({ nextOp: op })}
                className="grid h-7 w-8 place-items-center rounded-md hover:bg-[var(--hover)] aria-checked:bg-[var(--focused)] aria-disabled:opacity-40"
              >
                <OpGlyph op={op} />
              </button>
            </Tip>
          )
        })}
      </span>
    </div>
  )
}

function Finders() {
  const chosen = useBench((state) => state.finder)
  const hint = finderPage(chosen)
  return (
    <>
      <NextUse />
      <div role="toolbar" aria-label="Tools" aria-orientation="vertical" onKeyDown={rove} onMouseDown={keepFocus}>
        {groupsShown().map(({ group, name, key }) => (
          <section key={group} className="mb-1" aria-label={name}>
            <h2 className="mb-0.5 flex justify-between px-1 text-xs text-[var(--muted)]">
              <span>{name}</span>
              <kbd className="font-mono text-[11px]" title="Its key">
                {keyHint(`group ${group}`, key)}
              </kbd>
            </h2>
            <div className="grid grid-cols-2 gap-1">
              {FINDER_PAGES.filter((page) => page.group === group).map(({ id, name: finder, icon: Icon }) => (
                <button
                  key={id}
                  type="button"
                  aria-pressed={chosen === id}
                  tabIndex={chosen === id ? 0 : -1}
                  onClick={() => takeTool(id)}
                  className="flex items-center gap-1.5 rounded-lg px-1.5 py-[3px] text-[13px] font-medium whitespace-nowrap hover:bg-[var(--hover)] aria-pressed:bg-[var(--ink)] aria-pressed:text-[var(--panel)]"
                >
                  <Icon size={15} className="shrink-0" />
                  {finder}
                </button>
              ))}
            </div>
          </section>
        ))}
      </div>
      {hint.Tool && <hint.Tool />}
      <div className={`mt-auto bg-[var(--panel)] pt-1 pb-3 ${hint.Tool ? '' : 'sticky -bottom-3'}`}>
        <p className="note">
          <b>{hint.name}</b> — {hint.hint}
        </p>
      </div>
    </>
  )
}
