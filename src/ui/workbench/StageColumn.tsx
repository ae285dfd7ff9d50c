'use client'
/** The left column: what the stage offers. Finders by what the editor goes by, pictures, placement, delivery. */
import { FINDER_PAGES, finderPage, groupsShown } from '@/ui/finders/registry'
import { set, useBench } from '@/ui/store/bench'
import { ComposePanel } from './ComposePanel'
import { DeliverPanel } from './DeliverPanel'
import { GatherPanel } from './GatherPanel'

export function StageColumn() {
  const stage = useBench((state) => state.stage)
  return (
    <div className="flex h-full flex-col overflow-y-auto px-2.5 py-3">
      {stage === 'select' && <Finders />}
      {stage === 'gather' && <GatherPanel />}
      {stage === 'compose' && <ComposePanel />}
      {stage === 'deliver' && <DeliverPanel />}
    </div>
  )
}

function Finders() {
  const chosen = useBench((state) => state.finder)
  const hint = finderPage(chosen)
  return (
    <>
      {groupsShown().map(({ group, name, key }) => (
        <section key={group} className="mb-3" aria-label={name}>
          <h3 className="mb-1 flex justify-between px-1 text-xs text-[var(--muted)]"><span>{name}</span><kbd className="font-mono text-[11px]" title={`Press ${key}`}>{key}</kbd></h3>
          <div className="grid grid-cols-2 gap-1">
            {FINDER_PAGES.filter((page) => page.group === group).map(({ id, name: finder, icon: Icon }) => (
              <button key={id} type="button" aria-pressed={chosen === id} onClick={() => set({ finder: id, drawing: null })} className="flex items-center gap-1.5 rounded-lg px-2 py-1.5 text-[13px] font-medium hover:bg-[var(--hover)] aria-pressed:bg-[var(--ink)] aria-pressed:text-[var(--panel)]"><Icon size={15} className="shrink-0" />{finder}</button>
            ))}
          </div>
        </section>
      ))}
      {hint.Tool && <hint.Tool />}
      <p className="note"><b>{hint.name}</b> — {hint.hint}</p>
    </>
  )
}
